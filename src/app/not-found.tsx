import Link from 'next/link'

export default function NotFound() {
  return (
    <main style={{ padding: 40, display: 'grid', gap: 12 }}>
      <h1>That is not here</h1>
      <p>The routine may have been removed, or the address is not whole.</p>
      <p>
        <Link href="/">To the shelf</Link>
      </p>
    </main>
  )
}

import { Floor } from '@/ui/stations/floor/floor'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <Floor id={(await params).id} />
}

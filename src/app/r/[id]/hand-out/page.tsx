import { HandOut } from '@/ui/stations/hand-out/hand-out'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <HandOut id={(await params).id} />
}

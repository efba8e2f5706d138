import { Count } from '@/ui/stations/count/count'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <Count id={(await params).id} />
}

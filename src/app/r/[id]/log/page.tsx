import { Log } from '@/ui/stations/log/log'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <Log id={(await params).id} />
}

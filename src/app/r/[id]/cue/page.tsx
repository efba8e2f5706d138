import { Cue } from '@/ui/stations/cue/cue'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <Cue id={(await params).id} />
}

declare module 'signalsmith-stretch' {
  export interface StretchChange {
    /** Audio context time of the change. */
    output?: number
    active?: boolean
    /** Position in the loaded buffers, in seconds. */
    input?: number
    rate?: number
  }
  export interface StretchNode extends AudioWorkletNode {
    schedule(change: StretchChange): Promise<unknown>
    addBuffers(channels: Float32Array[], transfer?: Transferable[]): Promise<number>
    dropBuffers(): Promise<unknown>
  }
  const create: {
    (context: BaseAudioContext, options: AudioWorkletNodeOptions): Promise<StretchNode>
    moduleUrl?: string
  }
  export default create
}

/* Runs beside the sound: hands on what the microphone hears, 1024 samples at a time, with the time of the first. */
const SIZE = 1024

class Microphone extends AudioWorkletProcessor {
  block = new Float32Array(SIZE)
  filled = 0

  process(inputs) {
    const channel = inputs[0]?.[0]
    if (!channel) return true
    if (this.filled === 0) this.at = currentTime
    this.block.set(channel, this.filled)
    this.filled += channel.length
    if (this.filled >= SIZE) {
      this.port.postMessage({ at: this.at, block: this.block }, [this.block.buffer])
      this.block = new Float32Array(SIZE)
      this.filled = 0
    }
    return true
  }
}

registerProcessor('microphone', Microphone)

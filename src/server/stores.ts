/** Where songs and films are kept: names are content hashes, so no file name of a person's ever reaches it. */
export interface FileStore {
  /** Streams bytes in, piece by piece, as a store elsewhere takes parts. The file is not part of the store until `keep`. */
  receive(bytes: AsyncIterable<Uint8Array>): Promise<Incoming>
  size(hash: string): Promise<number | null>
  /** Bytes from `start` to `end`, both included. */
  read(hash: string, start: number, end: number): ReadableStream<Uint8Array>
  remove(hash: string): Promise<void>
  /** Takes a whole file of this machine in, which is in the store from then on, and no longer where it was. */
  adopt(file: string, hash: string): Promise<void>
  /** Brings a file of this machine there before others wait for it, where that takes its time. To be marked before (leftovers.ts). */
  stage(file: string, hash: string): Promise<void>
  /** An address at which a browser reads it without this server, for a while; null where there is none. */
  link(hash: string, mime: string): Promise<string | null>
  /** Where another program of this machine reads it: the path of a file, or an address that is good for an hour. */
  reach(hash: string): Promise<string>
}

export interface Incoming {
  hash: string
  bytes: number
  /** Looks at the bytes before they are kept, as a file of this machine for so long: a store elsewhere fetches one. */
  asFile<T>(look: (file: string) => Promise<T>): Promise<T>
  /** As `stage` of the store; it may still be let go. */
  stage(): Promise<void>
  keep(): Promise<void>
  discard(): Promise<void>
}

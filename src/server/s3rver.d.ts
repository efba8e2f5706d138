/** As much of it as the tests and the stand-in use; it ships no types. */
declare module '@20minutes/s3rver' {
  export default class S3rver {
    constructor(options: {
      port: number
      address: string
      silent: boolean
      directory: string
      configureBuckets: { name: string; configs: string[] }[]
    })
    run(): Promise<{ address: string; port: number }>
    close(): Promise<void>
  }
}

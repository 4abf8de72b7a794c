export interface Serving {
  url: string
  /** What it has printed so far. */ said(): string
  pid: number
  kill(): void
}
export function serve(databaseUrl: string, env?: Record<string, string>): Promise<Serving>
/** The cookie of somebody of the demo, signed in. */
export function signedInAt(address: string, who?: string): Promise<string>

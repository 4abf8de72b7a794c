export interface Serving {
  url: string
  /** What it has printed so far. */ said(): string
  kill(): void
}
export function serve(databaseUrl: string, env?: Record<string, string>): Promise<Serving>

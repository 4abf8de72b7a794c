export interface RunningPostgres {
  url: string
  adminUrl: string
  pid: number
  stop(): void
  /** Why it is gone; nothing while it runs. */ died(): string | undefined
}
export function startPostgres(dataFolder: string, options?: { fast?: boolean }): Promise<RunningPostgres>
export function postgresPrograms(): string

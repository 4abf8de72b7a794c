export interface RunningPostgres { url: string, stop(): void }
export function startPostgres(dataFolder: string, options?: { fast?: boolean }): Promise<RunningPostgres>
export function freePort(): Promise<number>

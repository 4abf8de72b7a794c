export const root: string
export const dataFolder: string
export function installDependencies(wanted?: { tests?: boolean }): Promise<void>
export function build(): Promise<void>
export function bin(name: string): string
export function prepare(
  url: string,
  env?: Record<string, string>,
): { made: boolean; demo: boolean; keeperLink: string | null }
export function secret(folder?: string): string
export function filesFolder(data?: string): string
export function temporaryFolder(name: string): string

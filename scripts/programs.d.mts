export function program(file: string, args?: string[]): [command: string, args: string[]]
export function load(file: string): Promise<Record<string, unknown>>

export function roomOf(path: string): string | null
export function mayImport(from: string, to: string | null): boolean

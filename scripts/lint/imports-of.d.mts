type Edges = ReadonlyMap<string, ReadonlySet<string>>
export const root: string
export function folderGraph(): Edges
export function folderOf(file: string): string | null
export function importedFile(file: string, from: string): string | null
export function importsOf(file: string): string[]
export function isTest(file: string): boolean
export function sources(): string[]
export function wayBetween(edges: Edges, from: string, to: string): string[] | null

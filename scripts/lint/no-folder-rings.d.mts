export function wayBetween(edges: ReadonlyMap<string, ReadonlySet<string>>, from: string, to: string): string[] | null

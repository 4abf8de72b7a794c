export function putFile(file: string, bytes: string | Uint8Array): void

export function lockFolder(folder: string): Promise<void>
export function readNote(folder: string): { url: string; address: string; pid: number } | undefined
export function testPort(port: number, host: string): Promise<void>

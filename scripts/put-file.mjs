import { closeSync, fsyncSync, openSync, renameSync, rmSync, writeFileSync } from 'node:fs'

/**
 * Writes a file that is there whole or not at all, whenever whoever writes it is killed: beside its place, and from there
 * into it. Readable by its owner only.
 */
export function putFile(file, bytes) {
  const fresh = `${file}.new-${process.pid}`
  const handle = openSync(fresh, 'w', 0o600)
  try {
    writeFileSync(handle, bytes)
    fsyncSync(handle)
    renameSync(fresh, file)
  } catch (error) {
    rmSync(fresh, { force: true })
    throw error
  } finally {
    closeSync(handle)
  }
}

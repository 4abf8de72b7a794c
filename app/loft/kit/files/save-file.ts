/** Hands a text made here to the browser as a file of this name. */
export function saveFile(name: string, content: string | Uint8Array<ArrayBuffer>, type: string): void {
  const address = URL.createObjectURL(new Blob([content], { type }))
  const link = Object.assign(document.createElement('a'), { href: address, download: name })
  link.click()
  // The browser reads it in its own time.
  setTimeout(() => URL.revokeObjectURL(address), 10_000)
}

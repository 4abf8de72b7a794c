/** Colours of a woven picture, so that goods beside one another differ: always the same for one address. */
const palettes = ['fleece', 'madder', 'weld', 'woad', 'moss']

export function wovenPalette(address: string): string {
  const end = address.split('/').at(-1) ?? ''
  const named = palettes.find(palette => end.includes(palette))
  const sum = [...end].reduce((all, letter) => (all * 31 + letter.charCodeAt(0)) % 9973, 7)
  return named ?? palettes[sum % palettes.length]!
}

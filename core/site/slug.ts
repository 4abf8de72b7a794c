/** Words as they stand in an id or an address: small letters and digits with dashes between. */
export const slug = (words: string) =>
  words
    .normalize('NFD')
    .replaceAll(/\p{M}/gu, '')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-+|-+$/g, '')

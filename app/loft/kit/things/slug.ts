/** An id made of a name: small letters, digits and dashes; empty where the name holds none. */
export const slug = (name: string) =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-+|-+$/g, '')

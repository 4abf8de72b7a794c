/** Small turns of phrase that screens share. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** One, or many: “1 price”, “3 prices”. */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`

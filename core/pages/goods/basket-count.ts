/** How many pieces lie in a basket, behind the word that leads to it; nothing where none do. */
export function basketCountWords(basket: readonly { quantity: number }[] = []): string {
  const pieces = basket.reduce((all, one) => all + one.quantity, 0)
  return pieces ? ` (${pieces})` : ''
}

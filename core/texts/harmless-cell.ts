/** A cell of a CSV file: a spreadsheet must not take a name for a formula (OWASP, CSV injection). */
export const harmlessCell = (value: string): string => (/^[=+\-@\t\r]/.test(value) ? `'${value}` : value)

/** Characters that are no letters and no ends of lines: names are kept without them, and no XML can hold them (XML 1.0, 2.2). */
export const notInXml = /[^\P{Cc}\t\n\r\u007f-\u009f]|[\ufffe\uffff]|\p{Surrogate}/gu

/** What somebody typed into a line: whatever is no letter is a space. */
export const oneLine = (text: string): string => text.replaceAll(/[\p{Cc}\p{Zl}\p{Zp}\ufffe\uffff]+/gu, ' ')

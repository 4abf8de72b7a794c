/** Characters that are no letters and no ends of lines: names are kept without them, and no XML can hold them (XML 1.0, 2.2). */
// eslint-disable-next-line no-control-regex -- they are what is looked for
export const notInXml =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g

/** What somebody typed into a line: whatever is no letter is a space. */
// eslint-disable-next-line no-control-regex -- they are what is looked for
export const oneLine = (text: string): string =>
  text.replaceAll(/[\u0000-\u001f\u007f-\u009f\u2028\u2029\ufffe\uffff]+/g, ' ')

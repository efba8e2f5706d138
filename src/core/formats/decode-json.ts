/** JSON as other programs save it: a byte order mark before it is none of it (RFC 8259, section 8.1). @throws SyntaxError */
export const parseJson = (text: string): unknown => JSON.parse(text.replace(/^\uFEFF/, ''))

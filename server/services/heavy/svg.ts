/** One element of a drawing for print, as text. Attributes are our own names and numbers; text is escaped. */
export function tag(
  name: string,
  attributes: Record<string, string | number>,
  ...children: string[]
): string {
  const written = Object.entries(attributes).map(([key, value]) => ` ${key}="${value}"`)
  return `<${name}${written.join('')}>${children.join('')}</${name}>`
}

/** Text that may stand inside an element. */
export const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')

/** A whole drawing. */
export const svg = (width: number, height: number, ...children: string[]): string =>
  tag(
    'svg',
    { xmlns: 'http://www.w3.org/2000/svg', width, height, viewBox: `0 0 ${width} ${height}` },
    ...children,
  )

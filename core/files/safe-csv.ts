import Papa from 'papaparse'

/**
 * Text that some spreadsheet takes for a formula: behind a separator of another country, or in full
 * width, too.
 */
const FORMULA = /^[\s;,|'"]*[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/

/**
 * Writes a table that is safe to open in a spreadsheet: text that would be taken
 * for a formula gets an apostrophe before it. Numbers stay numbers.
 */
export const writeCsv = (
  columns: readonly string[],
  rows: readonly (readonly (string | number | boolean | null)[])[],
): string =>
  `${Papa.unparse({ fields: [...columns], data: rows.map((r) => [...r]) }, { escapeFormulae: FORMULA })}\r\n`

import Papa from 'papaparse'

/**
 * Writes a table that is safe to open in a spreadsheet: text that would be taken
 * for a formula gets an apostrophe before it. Numbers stay numbers.
 */
export const writeCsv = (columns: readonly string[], rows: readonly (readonly (string | number | boolean | null)[])[]): string =>
  `${Papa.unparse({ fields: [...columns], data: rows.map((r) => [...r]) }, { escapeFormulae: true })}\r\n`

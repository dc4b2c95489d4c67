/** Whether a text is a date that exists, written like 2026-03-09. */
export const isDay = (text: string): boolean =>
  /^\d{4}-\d\d-\d\d$/.test(text) &&
  !Number.isNaN(Date.parse(text)) &&
  new Date(text).toISOString().slice(0, 10) === text

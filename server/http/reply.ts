import { setHeaders, type H3Event } from 'h3'

/** Answers with a CSV file; the name keeps to letters that every system takes. */
export function csvReply(event: H3Event, name: string, csv: string): string {
  setHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename="${name.replace(/[^\w.-]/g, '-')}.csv"`,
  })
  return csv
}

/** Answers with a JSON file that a person keeps. */
export function jsonFileReply(event: H3Event, name: string, data: object): string {
  setHeaders(event, {
    'content-type': 'application/json; charset=utf-8',
    'content-disposition': `attachment; filename="${name.replace(/[^\w.-]/g, '-')}.json"`,
  })
  return JSON.stringify(data, null, 1)
}

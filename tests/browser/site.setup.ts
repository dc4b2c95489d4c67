import { startSite } from '../site'

/**
 * One site for all browser tests of a run, unless it stands already; Playwright calls what is returned at
 * the end.
 */
export default function setup() {
  if (process.env.VET_LINE_TEST_ADDRESS) return
  const site = startSite(4300)
  process.env.VET_LINE_TEST_ADDRESS = site.address
  return () => site.stop()
}

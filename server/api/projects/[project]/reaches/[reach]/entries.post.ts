import { entriesRoute } from '../../../../../http/worksheet-routes'

export default entriesRoute('POST /api/projects/:project/reaches/:reach/entries', 'reach')

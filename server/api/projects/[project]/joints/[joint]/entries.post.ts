import { entriesRoute } from '../../../../../http/worksheet-routes'

export default entriesRoute('POST /api/projects/:project/joints/:joint/entries', 'joint')

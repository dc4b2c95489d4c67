import { readingRoute } from '../../../../../http/worksheet-routes'

export default readingRoute('POST /api/projects/:project/joints/:joint/reading', 'joint')

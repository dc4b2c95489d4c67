import { releaseHereRoute } from '../../../../../http/worksheet-routes'

export default releaseHereRoute('POST /api/projects/:project/reaches/:reach/release-here', 'reach')

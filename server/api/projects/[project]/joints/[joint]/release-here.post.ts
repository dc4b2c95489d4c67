import { releaseHereRoute } from '../../../../../http/worksheet-routes'

export default releaseHereRoute('POST /api/projects/:project/joints/:joint/release-here', 'joint')

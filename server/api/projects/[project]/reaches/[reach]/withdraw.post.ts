import { withdrawRoute } from '../../../../../http/worksheet-routes'

export default withdrawRoute('POST /api/projects/:project/reaches/:reach/withdraw', 'reach')

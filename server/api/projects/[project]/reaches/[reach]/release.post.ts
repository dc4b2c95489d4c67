import { signOffRoute } from '../../../../../http/worksheet-routes'

export default signOffRoute('POST /api/projects/:project/reaches/:reach/release', 'reach')

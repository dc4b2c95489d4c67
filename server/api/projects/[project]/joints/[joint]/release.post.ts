import { signOffRoute } from '../../../../../http/worksheet-routes'

export default signOffRoute('POST /api/projects/:project/joints/:joint/release', 'joint')

import { withdrawRoute } from '../../../../../http/worksheet-routes'

export default withdrawRoute('POST /api/projects/:project/joints/:joint/withdraw', 'joint')

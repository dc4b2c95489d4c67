import { witnessRoute } from '../../../../../http/worksheet-routes'

export default witnessRoute('POST /api/projects/:project/joints/:joint/witness', 'joint')

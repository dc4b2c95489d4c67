import { witnessRoute } from '../../../../../http/worksheet-routes'

export default witnessRoute('POST /api/projects/:project/reaches/:reach/witness', 'reach')

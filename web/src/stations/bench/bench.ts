import { answer, client } from '../../api/client'
import { useStation } from '../../api/job'

/** The bench as the server sees it: asked once, however many parts of the screen read it. */
export const useBench = () =>
  useStation('bench', (n) => answer(client.GET('/api/jobs/{number}/bench', { params: { path: { number: n } } })))

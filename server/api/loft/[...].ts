/** All of the console's addresses: each is answered by the action declared for it. */
import { createRouter, eventHandler, useBase } from 'h3'
import type { RouterMethod } from 'h3'
import { answer } from '../../actions/action'
import type { Action } from '../../actions/action'
import { actions } from '../../actions/actions'

const router = createRouter({ preemptive: true })
for (const [name, action] of Object.entries(actions)) {
  const [method, path] = name.split(' ') as [string, string]
  router.add(
    `/${path}`,
    eventHandler(event => answer(event, name, action as Action)),
    method.toLowerCase() as RouterMethod,
  )
}

export default useBase('/api/loft', router.handler)

/** Everything people want to do that the console knows how to begin: a list for each field, a line here for each list. */
import { otherTasks } from './other-tasks'
import { peopleTasks } from './people-tasks'
import { shopTasks } from './shop-tasks'
import { siteTasks } from './site-tasks'
import type { Task } from './task'

export const tasks: readonly Task[] = [...siteTasks, ...shopTasks, ...peopleTasks, ...otherTasks]

/** `docs/tasks.md`, made of what the console knows how to begin: `npx tsx scripts/tasks-doc.ts` writes it. */
import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { tasks } from '../app/loft/frame/tasks/tasks'

const file = fileURLToPath(new URL('../docs/tasks.md', import.meta.url))

export function tasksDoc(): string {
  const places = [...new Set(tasks.map(task => task.place))]
  const sections = places.map(place => {
    const list = tasks.filter(task => task.place === place)
    const lines = list.map(({ says, also, next, then }) => {
      const begins = `Begins at **${next.replace(/…$/, '')}**. ${then}`
      return `- **${says}** (${also.join(', ')})  \n  ${begins}`
    })
    return `## ${place}\n\n${lines.join('\n')}\n`
  })
  return `# What people want to do, and where it begins

In the console press \`/\` and type what you want, in your own words: you are led to where it begins, with the first step
done and the next one marked. These are the ${tasks.length} things it knows, by place. This page is made from the list the console
reads (\`app/loft/frame/tasks/\`); each is tried against the running console in \`tests/application/tasks.test.ts\`.

${sections.join('\n')}`
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(file, tasksDoc())

/** What a browser calls itself, in words a person knows: “Chrome on Linux”. */
import Bowser from 'bowser'

export function agentName(agent: string): string {
  if (!agent) return 'A program'
  const { browser, os } = Bowser.parse(agent.slice(0, 500))
  const name = browser.name && browser.name !== 'Unknown Browser' ? browser.name.slice(0, 40) : 'A program'
  return os.name ? `${name} on ${os.name.slice(0, 40)}` : name
}

/** Debian packages the project needs: installed when root, named when not. */
import { spawnSync } from 'node:child_process'

export function aptInstall(packages) {
  const missing = `Install the Debian ${packages.length === 1 ? 'package' : 'packages'} ${packages.join(', ')} (as root: apt-get install ${packages.join(' ')}) and start again.`
  const prefix =
    process.getuid?.() === 0
      ? []
      : spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0
        ? ['sudo', '-n']
        : null
  if (!prefix) throw new Error(missing)
  console.log(`Installing ${packages.join(', ')} from Debian's packages…`)
  const apt = (...args) => {
    const [command, ...rest] = [...prefix, 'apt-get', ...args]
    return (
      spawnSync(command, rest, {
        stdio: ['ignore', 'ignore', 'inherit'],
        env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      }).status === 0
    )
  }
  apt('update')
  if (!apt('install', '-y', '--no-install-recommends', ...packages)) throw new Error(missing)
}

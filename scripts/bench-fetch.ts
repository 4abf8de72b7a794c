/** A file of a gigabyte up and down: how fast beside nginx alone on the same file, and in how much memory. */
import { execFileSync, spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  readSync,
  readdirSync,
  statSync,
  writeSync,
} from 'node:fs'
import { join } from 'node:path'
import { freePort } from './ports.mjs'
import { serve, signedInAt } from './serving.mjs'
import { prepare, temporaryFolder } from './steps.mjs'

const gigabyte = 1_000_000_000
const piece = 64_000_000
const settleMs = 12_000
const nginxPath = '/usr/sbin/nginx'
const megabytes = (bytes: number) => Math.round(bytes / 1_000_000).toLocaleString('en')

/** Words, so that what it is is told by its bytes; no two pieces alike. */
function write(path: string): void {
  const file = openSync(path, 'w')
  const line = Buffer.alloc(1_000_000)
  for (let n = 0; n < gigabyte / line.length; n++) {
    line.fill(`Line ${n}: cast on a tenth fewer stitches than the body needs, then raise them.\n`)
    writeSync(file, line)
  }
  closeSync(file)
}

const used = (pid: number): number =>
  Number(/VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) * 1024
/** The most memory a process has while `work` goes on; bytes. */
async function mostUsed<T>(pid: number, work: () => Promise<T>): Promise<{ answer: T; most: number }> {
  let most = used(pid)
  const timer = setInterval(() => (most = Math.max(most, used(pid))), 20)
  const answer = await work()
  clearInterval(timer)
  return { answer, most }
}

/** Bytes a second, as curl sees it: it does nothing but read. */
const fetched = (url: string, cookie = ''): Promise<number> =>
  new Promise((resolve, reject) => {
    const out = spawn('curl', [
      '-sf',
      '-o',
      '/dev/null',
      '-w',
      '%{speed_download} %{size_download}',
      '-H',
      `cookie: ${cookie}`,
      '-L',
      url,
    ])
    let said = ''
    out.stdout.on('data', data => (said += data))
    out.on('close', () => {
      const [speed, size] = said.split(' ').map(Number)
      if (size === gigabyte) resolve(speed!)
      else reject(new Error(`${url} sent ${size} bytes`))
    })
  })
const best = async (times: number, one: () => Promise<number>): Promise<number> => {
  let most = 0
  for (let i = 0; i < times; i++) most = Math.max(most, await one())
  return most
}

async function sent(address: string, cookie: string, path: string): Promise<{ file: string; speed: number }> {
  const ask = async (method: string, to: string, body: object) => {
    const headers = { cookie, 'content-type': 'application/json' }
    const answer = await fetch(`${address}/api/loft/${to}`, { method, headers, body: JSON.stringify(body) })
    if (!answer.ok) throw new Error(`${method} ${to} answered ${answer.status}: ${await answer.text()}`)
    return answer.json().catch(() => ({})) as Promise<Record<string, never>>
  }
  await ask('PUT', 'settings/files', { most: 2000, types: ['txt', 'pdf', 'csv'], perDay: { levels: {} } })
  const start = performance.now()
  const { id } = await ask('POST', 'uploads', { name: 'large.txt', size: gigabyte })
  let told: { file?: string } = {}
  for (let from = 0; from < gigabyte; from += piece) {
    const headers = [
      '-H',
      `cookie: ${cookie}`,
      '-H',
      `upload-offset: ${from}`,
      '-H',
      'content-type: application/octet-stream',
      '-H',
      'expect:',
    ]
    const cut = `dd if='${path}' bs=1000000 skip=${from / 1_000_000} count=${piece / 1_000_000} status=none`
    const curl = ['curl', '-sf', '-X', 'PATCH', ...headers, '-T', '-', `${address}/api/loft/uploads/${id}`].map(
      one => `'${one}'`,
    )
    const out = spawn('sh', ['-c', `${cut} | ${curl.join(' ')}`])
    let said = ''
    out.stdout.on('data', data => (said += data))
    await new Promise(resolve => out.on('close', resolve))
    told = JSON.parse(said) as { file?: string }
  }
  const seconds = (performance.now() - start) / 1000
  await ask('POST', 'things/download', {
    id: 'large',
    title: 'Large',
    folder: 'patterns',
    file: told.file,
    fileName: 'large.txt',
  })
  return { file: told.file!, speed: gigabyte / seconds }
}

/** Bytes a second that a hash is made of here: what comes in cannot be kept faster. */
function hashed(path: string): number {
  const hash = createHash('sha256')
  const [file, bytes] = [openSync(path, 'r'), Buffer.alloc(1_048_576)]
  const start = performance.now()
  let all = 0
  for (let read = readSync(file, bytes); read; read = readSync(file, bytes)) {
    hash.update(bytes.subarray(0, read))
    all += read
  }
  closeSync(file)
  return (all / (performance.now() - start)) * 1000
}

async function nginxFor(folder: string): Promise<{ url: string; stop(): void }> {
  const port = await freePort()
  const own = temporaryFolder('bench-nginx')
  mkdirSync(join(own, 'body'))
  const user = process.getuid?.() === 0 ? 'user root;' : ''
  execFileSync('sh', ['-c', `cat > ${own}/nginx.conf`], {
    input: `${user} daemon off; pid ${own}/pid; error_log stderr; events {} http { access_log off; sendfile on; client_body_temp_path ${own}/body; server { listen 127.0.0.1:${port}; root ${folder}; } }`,
  })
  const nginx = spawn(nginxPath, ['-p', own, '-c', join(own, 'nginx.conf')], { stdio: 'ignore' })
  const url = `http://127.0.0.1:${port}`
  while (!(await fetch(url).catch(() => null))) await new Promise(resolve => setTimeout(resolve, 50))
  return { url, stop: () => void nginx.kill() }
}

function largest(folder: string): string {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter(one => one.isFile())
  return files.map(one => join(one.parentPath, one.name)).toSorted((a, b) => statSync(b).size - statSync(a).size)[0]!
}

export async function benchFetch(url: string): Promise<void> {
  if (!existsSync(nginxPath))
    return console.log('files: nginx is not here to compare with (apt-get install nginx-light)')
  prepare(url)
  const folder = temporaryFolder('bench-files')
  const path = join(folder, 'large.txt')
  write(path)
  const server = await serve(url)
  try {
    const cookie = await signedInAt(server.url)
    // The demo's own files are read for search first, each in a thread: that is not what is measured.
    await new Promise(resolve => setTimeout(resolve, settleMs))
    const up = await mostUsed(server.pid, () => sent(server.url, cookie, path))
    const published = await fetch(`${server.url}/api/loft/publish`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify({ note: 'A gigabyte', expects: 1 }),
    })
    if (!published.ok) throw new Error(`publish answered ${published.status}: ${await published.text()}`)
    const down = await mostUsed(server.pid, () => best(4, () => fetched(`${server.url}/fetch/large`, cookie)))
    const stored = largest(process.env.BRAVIK_FILES!)
    const nginx = await nginxFor(join(stored, '..'))
    const alone = await best(4, () => fetched(`${nginx.url}/${stored.split('/').at(-1)}`))
    nginx.stop()
    const of = (speed: number) => `${megabytes(speed)} MB a second, ${(speed / alone).toFixed(2)} of nginx`
    console.log(
      `a file of 1 GB: down at ${of(down.answer)} alone (aim: at least 0.50) · up at ${of(up.answer.speed)}, ${(up.answer.speed / hashed(path)).toFixed(2)} of SHA-256 alone · memory of the server in all, at most: ${megabytes(up.most)} MB while it comes, ${megabytes(down.most)} while it goes (aim: under 200)`,
    )
  } finally {
    server.kill()
    execFileSync('rm', ['-rf', folder])
  }
}

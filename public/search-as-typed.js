// Searches while one types: the page of what is found is asked for again, and shown in place of what stands there.
// Without it the form is sent as any other.
const form = document.querySelector('form[data-found]')
const waitMs = 180
let timer
let asking

async function look() {
  asking?.abort()
  asking = new AbortController()
  const address = `${form.action}?${new URLSearchParams(new FormData(form))}`
  try {
    const text = await (await fetch(address, { signal: asking.signal })).text()
    const found = new DOMParser().parseFromString(text, 'text/html').getElementById(form.dataset.found)
    const shown = document.getElementById(form.dataset.found)
    if (!found || !shown) return
    shown.replaceChildren(...found.childNodes)
    history.replaceState(null, '', address)
  } catch {
    // Another letter was typed meanwhile, or the line is away: what stands there stays.
  }
}

form?.addEventListener('input', () => {
  clearTimeout(timer)
  timer = setTimeout(look, waitMs)
})

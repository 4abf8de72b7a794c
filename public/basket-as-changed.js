// Changes the basket as a count is changed: the page is asked for again, and shown in place of what stands there.
// Without it the button sends the form.
document.addEventListener('change', async event => {
  const field = event.target
  const form = field.closest?.('form.basket')
  if (!form || !field.name.startsWith('count:')) return
  try {
    const answer = await fetch(form.action, { method: 'POST', body: new URLSearchParams(new FormData(form)) })
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html')
    for (const part of ['#content', 'header.head']) {
      const [shown, found] = [document.querySelector(part), page.querySelector(part)]
      if (shown && found) shown.replaceChildren(...found.childNodes)
    }
    const again = [...document.querySelectorAll('form.basket input')].find(one => one.name === field.name)
    // Whoever went on to another field is left where they are.
    if (document.activeElement === document.body) again?.focus()
  } catch {
    // The line is away: what was typed stays, and the button sends it.
  }
})

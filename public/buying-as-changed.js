// Changes the basket as a count is changed, and takes a way of delivery as it is chosen: the page is asked for again, and
// shown in place of what stands there. Without it the button sends the form.
const isSent = name => name.startsWith('count:') || name === 'way'
document.addEventListener('change', async event => {
  const field = event.target
  const { form } = field
  if (!form || !isSent(field.name)) return
  try {
    const answer = await fetch(form.action, { method: 'POST', body: new URLSearchParams(new FormData(form)) })
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html')
    for (const part of ['#content', 'header.head']) {
      const [shown, found] = [document.querySelector(part), page.querySelector(part)]
      if (shown && found) shown.replaceChildren(...found.childNodes)
    }
    const isSame = one => one.name === field.name && (one.type !== 'radio' || one.value === field.value)
    const again = [...document.querySelectorAll('form input')].find(isSame)
    // Whoever went on to another field is left where they are.
    if (document.activeElement === document.body) again?.focus()
  } catch {
    // The line is away: what was typed stays, and the button sends it.
  }
})

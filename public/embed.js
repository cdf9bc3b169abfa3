// Puts the form of an opt-in page into any site: <script src=".../embed.js" data-page="p/sheet-kit" async></script>
// data-as="slide-in" lets it come in from the side instead, after data-after seconds (20 if nothing is said), once a visit.
(() => {
  const me = document.currentScript
  if (!me) return
  const { page, as, after } = me.dataset
  const home = me.src.replace(/\/embed\.js.*$/, '')
  const address = `${home}/${page}`
  const slides = as === 'slide-in'
  const seen = `keen-porch ${address}`

  const make = (tag, attributes = {}, ...inside) => {
    const element = document.createElement(tag)
    for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, value)
    element.append(...inside)
    return element
  }

  const holder = make('div')
  // Apart from the site's own styles, both ways.
  const root = holder.attachShadow({ mode: 'open' })
  const box = make('div')
  root.append(
    make('link', { rel: 'stylesheet', href: `${home}/public.css` }),
    make('style', {}, `.frame{font:17px/1.55 var(--body);color:var(--ink);background:var(--paper);border:1px solid var(--line);border-top:6px solid var(--accent);border-radius:8px;padding:24px;text-align:left}
.aside{position:absolute;left:-9999px}.slides{position:fixed;right:20px;bottom:20px;z-index:2147483000;width:min(380px,calc(100vw - 40px));max-height:calc(100vh - 40px);overflow:auto;box-shadow:0 12px 40px rgb(0 0 0/22%);animation:in .25s}
.close{position:absolute;top:10px;right:10px;width:36px;height:36px;padding:0;background:none;color:var(--ink)}@keyframes in{from{transform:translateY(30px);opacity:0}}@media(prefers-reduced-motion:reduce){.slides{animation:none}}`),
    box)

  const away = () => {
    holder.remove()
    try { sessionStorage.setItem(seen, '1') } catch { /* Where nothing may be kept it may come again. */ }
  }

  /** Shows what the page said: its form, or what comes after it. */
  function show({ classes, html }) {
    box.className = `frame ${classes}${slides ? ' slides' : ''}`
    box.innerHTML = html
    if (slides) {
      box.setAttribute('role', 'dialog')
      box.setAttribute('aria-label', box.querySelector('h2')?.textContent || 'Sign up')
      const close = make('button', { 'type': 'button', 'class': 'close', 'aria-label': 'Close' }, '×')
      close.addEventListener('click', away)
      box.append(close)
    }
    for (const field of box.querySelectorAll('[data-zone]')) field.value = Intl.DateTimeFormat().resolvedOptions().timeZone || ''
    box.querySelector('[aria-invalid]')?.focus()
    box.querySelector('form')?.addEventListener('submit', send)
  }

  async function send(event) {
    const form = event.target
    event.preventDefault()
    const button = form.querySelector('button[type=submit]')
    button.disabled = true
    try {
      const body = new URLSearchParams(new FormData(form))
      const answer = await fetch(form.action, { method: 'POST', headers: { accept: 'application/json' }, body })
      const said = await answer.json()
      if (said.redirect) location.assign(said.redirect)
      else show(said)
      if (answer.ok) try { sessionStorage.setItem(seen, '1') } catch { /* as above */ }
    }
    catch {
      // The plain way, to our own page, works wherever a form does.
      form.submit()
    }
  }

  async function come() {
    const answer = await fetch(`${address}/form${location.search}`, { headers: { accept: 'application/json' } })
    if (!answer.ok) throw new Error(`There is no form at ${address}`)
    show(await answer.json())
    if (slides) document.body.append(holder)
    else me.after(holder)
  }

  if (slides) {
    try { if (sessionStorage.getItem(seen)) return } catch { /* as above */ }
    document.addEventListener('keydown', event => event.key === 'Escape' && holder.isConnected && away())
    setTimeout(() => come().catch(error => console.warn(error)), 1000 * (Number(after) || 20))
  }
  else {
    come().catch(error => console.warn(error))
  }
})()

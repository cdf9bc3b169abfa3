// Tells which time zone the visitor's own clock shows, so that "8 in the morning" can mean theirs.
for (const field of document.querySelectorAll('[data-zone]')) field.value = Intl.DateTimeFormat().resolvedOptions().timeZone || ''

// Counts down by the time that has passed since the page came: the visitor's clock may be wrong, and ours may be a practice clock.
const some = (n, word) => `${n} ${word}${n === 1 ? '' : 's'}`
for (const time of document.querySelectorAll('[data-until]')) {
  const left = () => time.dataset.until - time.dataset.now - performance.now()
  const tell = () => {
    const minutes = Math.ceil(left() / 60000)
    if (minutes <= 0) {
      time.closest('p').hidden = true
      for (const over of time.closest('section').querySelectorAll('.once-over')) over.hidden = false
      return
    }
    const [days, hours] = [Math.floor(minutes / 1440), Math.floor(minutes / 60) % 24]
    time.title = time.title || time.textContent
    time.textContent = days > 0
      ? `${some(days, 'day')} ${some(hours, 'hour')}`
      : hours > 0 ? `${some(hours, 'hour')} ${some(minutes % 60, 'minute')}` : some(minutes, 'minute')
    setTimeout(tell, Math.min(left() % 60000 + 50, 60000))
  }
  tell()
}

// Questions one after the other: each is shown alone, and the address comes last. Without this script they all stand there.
for (const form of document.querySelectorAll('[data-turns]')) {
  const turns = [...form.querySelectorAll('.turn')]
  const last = turns.length - 1
  const wrong = turns.findIndex(turn => turn.querySelector('.problem'))
  let now = wrong >= 0 ? wrong : form.querySelector('.problem') ? last : 0
  const button = (words, quiet, go) => {
    const made = document.createElement('button')
    Object.assign(made, { type: 'button', textContent: words, className: quiet ? 'quiet' : '' })
    made.addEventListener('click', go)
    return made
  }
  const show = (n) => {
    now = n
    for (const [k, turn] of turns.entries()) turn.hidden = k !== n
  }
  const turnTo = (n) => {
    show(n)
    const first = turns[n].querySelector('legend, label')
    first.tabIndex = -1
    first.focus()
  }
  const next = () => {
    const turn = turns[now]
    const isGiven = field => /radio|checkbox/.test(field.type) ? field.checked : field.value.trim() !== ''
    const answered = [...turn.querySelectorAll('input, select')].some(isGiven)
    const told = turn.querySelector('.problem')
    if ('needed' in turn.dataset && !answered) {
      const says = '<p class="problem" role="alert">This answer is needed to go on.</p>'
      if (!told) turn.querySelector('.ways').insertAdjacentHTML('beforebegin', says)
      return
    }
    told?.remove()
    turnTo(now + 1)
  }
  for (const [n, turn] of turns.entries()) {
    const ways = document.createElement('p')
    ways.className = 'ways'
    if (n > 0) ways.append(button('Back', true, () => turnTo(n - 1)))
    if (n < last) ways.append(button('Next', false, next))
    const where = document.createElement('span')
    where.textContent = `${n + 1} of ${turns.length}`
    ways.append(where)
    turn.append(ways)
  }
  form.addEventListener('submit', (event) => {
    if (now === last) return
    event.preventDefault()
    next()
  })
  show(now)
}

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
    time.textContent = days > 0 ? `${some(days, 'day')} ${some(hours, 'hour')}` : hours > 0 ? `${some(hours, 'hour')} ${some(minutes % 60, 'minute')}` : some(minutes, 'minute')
    setTimeout(tell, Math.min(left() % 60000 + 50, 60000))
  }
  tell()
}

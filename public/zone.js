// Tells which time zone the visitor's own clock shows, so that "8 in the morning" can mean theirs.
for (const field of document.querySelectorAll('[data-zone]')) field.value = Intl.DateTimeFormat().resolvedOptions().timeZone || ''

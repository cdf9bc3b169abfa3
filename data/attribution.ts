/** What led to a purchase: the email whose link its buyer followed last before it, here and everywhere. */

/** The email behind a purchase `p`, by its number; null where they followed none within `@clickMs` milliseconds before buying. */
export const EMAIL_BEHIND = `(SELECT o2.id FROM outbox o2 JOIN clicks c2 ON c2.outbox_id = o2.id
  WHERE o2.person_id = p.person_id AND c2.judged = 'reader' AND c2.at <= p.bought_at AND c2.at >= p.bought_at - @clickMs
  ORDER BY c2.at DESC, c2.id DESC LIMIT 1)`

import type { Migration } from './migration'

/** What is sold: offers, who went to pay, what the payment service told, and what came of it. */
export const offers: Migration = {
  number: 13,
  name: 'offers',
  sql: `
CREATE TABLE offers (
  -- Something sold: its draft, and which version the public sees.
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, slug TEXT NOT NULL UNIQUE, draft TEXT NOT NULL,
  version_id INTEGER REFERENCES offer_versions (id), created_at INTEGER NOT NULL, changed_at INTEGER NOT NULL
) STRICT;

CREATE TABLE offer_versions (
  -- An offer as it was published; purchases and consent refer to it.
  id INTEGER PRIMARY KEY, offer_id INTEGER NOT NULL REFERENCES offers (id), number INTEGER NOT NULL,
  content TEXT NOT NULL, receipt_message_id INTEGER NOT NULL REFERENCES messages (id), published_at INTEGER NOT NULL, UNIQUE (offer_id, number)
) STRICT;

CREATE TABLE coupons (
  -- A code that makes an offer cheaper. The key is the code as it is compared.
  id INTEGER PRIMARY KEY, offer_id INTEGER NOT NULL REFERENCES offers (id), code TEXT NOT NULL, code_key TEXT NOT NULL,
  cut_hundredths_pct INTEGER CHECK (cut_hundredths_pct BETWEEN 1 AND 10000), cut_amount INTEGER CHECK (cut_amount > 0), currency TEXT NOT NULL,
  from_at INTEGER, until_at INTEGER, uses INTEGER CHECK (uses > 0), lasts TEXT NOT NULL CHECK (lasts IN ('first', 'every')),
  created_at INTEGER NOT NULL, gone_at INTEGER,
  CHECK ((cut_hundredths_pct IS NULL) <> (cut_amount IS NULL))
) STRICT;
CREATE UNIQUE INDEX coupons_by_code ON coupons (offer_id, code_key) WHERE gone_at IS NULL;
CREATE INDEX coupons_by_key ON coupons (code_key);

CREATE TABLE checkouts (
  -- Somebody pressed the button of an offer's page and went to pay. The price is what they were told then, with their coupon.
  -- Its place and its coupon are kept until keeps_until_at. Who presses again replaces what they pressed before.
  id INTEGER PRIMARY KEY, order_key TEXT NOT NULL UNIQUE, offer_id INTEGER NOT NULL REFERENCES offers (id),
  offer_version_id INTEGER NOT NULL REFERENCES offer_versions (id), person_id INTEGER NOT NULL REFERENCES people (id),
  coupon_id INTEGER REFERENCES coupons (id), first_price TEXT NOT NULL, later_price TEXT, touch_id INTEGER NOT NULL REFERENCES touches (id),
  answers TEXT NOT NULL, started_at INTEGER NOT NULL, keeps_until_at INTEGER NOT NULL, abandoned_due_at INTEGER,
  state TEXT NOT NULL CHECK (state IN ('open', 'bought', 'abandoned', 'replaced')), event_id INTEGER NOT NULL REFERENCES events (id),
  CHECK ((state = 'open') = (abandoned_due_at IS NOT NULL))
) STRICT;
CREATE INDEX checkouts_by_offer ON checkouts (offer_id, state, keeps_until_at);
CREATE INDEX checkouts_by_person ON checkouts (person_id);
CREATE INDEX checkouts_by_coupon ON checkouts (coupon_id) WHERE coupon_id IS NOT NULL;
CREATE INDEX checkouts_due ON checkouts (abandoned_due_at, id) WHERE abandoned_due_at IS NOT NULL;

CREATE TABLE tellings (
  -- One thing that was told of an order and is counted, once by the identifier of its webhook. Never changed.
  id INTEGER PRIMARY KEY, webhook_id TEXT NOT NULL UNIQUE, order_key TEXT NOT NULL, told TEXT NOT NULL, currency TEXT, came_at INTEGER NOT NULL
) STRICT;
CREATE INDEX tellings_by_order ON tellings (order_key, id);

CREATE TABLE told_in_vain (
  -- Something told that could not be used, and why, in words. Whoever told it may tell it again; once it can be used, it is taken out here.
  webhook_id TEXT PRIMARY KEY, order_key TEXT, problem TEXT NOT NULL, first_at INTEGER NOT NULL, last_at INTEGER NOT NULL, times INTEGER NOT NULL DEFAULT 1
) STRICT, WITHOUT ROWID;

CREATE TABLE purchases (
  -- What somebody bought: one order, as everything told of it comes to. Amounts are minor units of its one currency.
  -- The version and the checkout are null for what was sold elsewhere and told to us.
  id INTEGER PRIMARY KEY, order_key TEXT NOT NULL UNIQUE, offer_id INTEGER NOT NULL REFERENCES offers (id),
  offer_version_id INTEGER REFERENCES offer_versions (id), checkout_id INTEGER UNIQUE REFERENCES checkouts (id), person_id INTEGER NOT NULL REFERENCES people (id),
  came_by TEXT NOT NULL CHECK (came_by IN ('checkout', 'http', 'csv')), coupon_id INTEGER REFERENCES coupons (id), touch_id INTEGER REFERENCES touches (id),
  price TEXT NOT NULL, later_price TEXT, currency TEXT NOT NULL, bought_at INTEGER NOT NULL, told_at INTEGER NOT NULL,
  paid INTEGER NOT NULL, refunded INTEGER NOT NULL, disputed INTEGER NOT NULL, refused_at INTEGER, ended_at INTEGER,
  -- Until when it is paid for, where it is paid again and again; and since when they do not have it any more.
  paid_until_at INTEGER, over_due_at INTEGER, over_at INTEGER,
  event_id INTEGER NOT NULL REFERENCES events (id)
) STRICT;
CREATE INDEX purchases_by_offer ON purchases (offer_id, bought_at);
CREATE INDEX purchases_by_person ON purchases (person_id, offer_id);
CREATE INDEX purchases_by_time ON purchases (bought_at);
CREATE INDEX purchases_by_coupon ON purchases (coupon_id) WHERE coupon_id IS NOT NULL;
CREATE INDEX purchases_due ON purchases (over_due_at, id) WHERE over_due_at IS NOT NULL;
CREATE INDEX purchases_trouble ON purchases (disputed, refused_at) WHERE disputed > 0 OR refused_at IS NOT NULL;

CREATE TABLE payments (
  -- One payment of a purchase, and the number of the receipt that we gave for it.
  id INTEGER PRIMARY KEY, purchase_id INTEGER NOT NULL REFERENCES purchases (id), ref TEXT NOT NULL, at INTEGER NOT NULL,
  amount INTEGER NOT NULL, refunded INTEGER NOT NULL, disputed INTEGER NOT NULL, receipt_year INTEGER, receipt_n INTEGER, event_id INTEGER NOT NULL REFERENCES events (id),
  UNIQUE (purchase_id, ref), CHECK ((receipt_year IS NULL) = (receipt_n IS NULL))
) STRICT;
CREATE UNIQUE INDEX payments_by_receipt ON payments (receipt_year, receipt_n) WHERE receipt_n IS NOT NULL;
CREATE INDEX payments_by_time ON payments (at);

CREATE TABLE said_no_more (
  -- Somebody wants to hear no more of an offer, until they take it back.
  offer_id INTEGER NOT NULL REFERENCES offers (id), person_id INTEGER NOT NULL REFERENCES people (id), at INTEGER NOT NULL, event_id INTEGER NOT NULL REFERENCES events (id),
  PRIMARY KEY (offer_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX said_no_more_by_person ON said_no_more (person_id);

CREATE TABLE offer_visits (
  -- How often the page of an offer was shown on a day of the workspace's zone, by what brought the visitors.
  offer_id INTEGER NOT NULL REFERENCES offers (id), day TEXT NOT NULL, touch_id INTEGER NOT NULL REFERENCES touches (id), visits INTEGER NOT NULL CHECK (visits > 0),
  PRIMARY KEY (offer_id, day, touch_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE practice_orders (
  -- The books of the payment stand-in, which are none of ours: an order it was given, and what it is going to tell of it. Only in practice.
  order_key TEXT PRIMARY KEY, order_given TEXT NOT NULL, card TEXT, payments INTEGER NOT NULL DEFAULT 0, given_back TEXT NOT NULL DEFAULT '{}',
  first_paid_at INTEGER, next_at INTEGER, dispute_at INTEGER, ended_at INTEGER
) STRICT, WITHOUT ROWID;
CREATE INDEX practice_orders_due ON practice_orders (next_at) WHERE next_at IS NOT NULL;
CREATE INDEX practice_orders_disputes ON practice_orders (dispute_at) WHERE dispute_at IS NOT NULL;

-- False for an email that goes also to who has what its links lead to.
ALTER TABLE messages ADD COLUMN sells INTEGER NOT NULL DEFAULT 1 CHECK (sells IN (0, 1));

ALTER TABLE events ADD COLUMN offer_id INTEGER;
ALTER TABLE events ADD COLUMN purchase_id INTEGER;

-- A workspace that has the ready segments gets those that ask about buying, too, unless its owner has called something else by their names.
INSERT OR IGNORE INTO segments (name, note, condition, code, created_at, changed_at)
  SELECT 'Buyers', 'Have something they bought: neither given back nor ended.',
    '{"kind":"all","of":[{"kind":"all","of":[{"kind":"purchase","fate":"owned","offerId":null,"within":null,"times":1}]},{"kind":"none","of":[]}]}', 'buyers', created_at, created_at FROM workspace;
INSERT OR IGNORE INTO segments (name, note, condition, code, created_at, changed_at)
  SELECT 'Never bought anything', 'Active, and no purchase of anything, ever.',
    '{"kind":"all","of":[{"kind":"all","of":[{"kind":"status","is":["active"]}]},{"kind":"none","of":[{"kind":"purchase","fate":"bought","offerId":null,"within":null,"times":1}]}]}', 'never-bought', created_at, created_at FROM workspace;

-- Who sells, and the line about tax, as receipts say them; the days within which the last click before buying counts; the payment service of live.
ALTER TABLE workspace ADD COLUMN seller TEXT NOT NULL DEFAULT '';
ALTER TABLE workspace ADD COLUMN tax_line TEXT NOT NULL DEFAULT '';
ALTER TABLE workspace ADD COLUMN click_days INTEGER NOT NULL DEFAULT 7 CHECK (click_days BETWEEN 1 AND 90);
ALTER TABLE workspace ADD COLUMN payments_url TEXT;
ALTER TABLE workspace ADD COLUMN payments_secret TEXT NOT NULL DEFAULT '';
`,
}

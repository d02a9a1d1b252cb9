/** Its person may work there, and, in another kitchen than their own, still has the secret that opened it. */
const stands = 'p.active = 1 AND (p.home_id IS NULL OR (h.active = 1 AND BINARY s.home_secret = BINARY SHA2(h.secret_hash, 256)))'

/**
 * Who is behind a token, in which kitchen. Every request asks it before anything else: the model’s own join of the same tables
 * takes longer than storing a weighing does.
 */
export const sessionByToken = `
  SELECT s.id AS sessionId, s.tablet_id AS tabletId, t.name AS tabletName, s.started_at AS startedAt,
    s.seen_at < UTC_TIMESTAMP(3) - INTERVAL 60 SECOND AS isQuiet,
    p.id AS personId, p.name, p.role, p.version, k.id AS kitchenId, k.name AS kitchenName, k.settings, k.version AS kitchenVersion
  FROM sessions s JOIN people p ON p.id = s.person_id AND p.kitchen_id = s.kitchen_id JOIN kitchens k ON k.id = s.kitchen_id
    LEFT JOIN tablets t ON t.id = s.tablet_id LEFT JOIN people h ON h.id = p.home_id
  WHERE s.token_hash = :tokenHash AND s.expires_at > UTC_TIMESTAMP(3) AND ${stands}`

/** Which of many sessions still stand, in one go: open streams ask every second. */
export const standingSessions = `
  SELECT s.id FROM sessions s JOIN people p ON p.id = s.person_id LEFT JOIN people h ON h.id = p.home_id
  WHERE s.id IN (:ids) AND s.expires_at > UTC_TIMESTAMP(3) AND ${stands}`

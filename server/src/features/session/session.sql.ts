/**
 * Who is behind a token, in which kitchen. Every request asks it before anything else: the model’s own join of the same three
 * tables takes longer than storing a weighing does.
 */
export const sessionByToken = `
  SELECT p.id AS personId, p.name, p.role, p.version, k.id AS kitchenId, k.name AS kitchenName, k.settings, k.version AS kitchenVersion
  FROM sessions s JOIN people p ON p.id = s.person_id AND p.kitchen_id = s.kitchen_id JOIN kitchens k ON k.id = s.kitchen_id
  WHERE s.token_hash = :tokenHash AND s.expires_at > UTC_TIMESTAMP(3) AND p.active = 1`

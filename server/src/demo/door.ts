import sharp from 'sharp'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { readPicture } from '../features/pictures/read-picture.ts'
import { takeClaimNumber } from '../features/runs/run-number.ts'
import { found } from '../http/changes.ts'

/** A bird on a tray with a tear in its skin, drawn: the demo has no photographs. */
const tornBird = `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="900" viewBox="0 0 1200 900">
<rect width="1200" height="900" fill="#8f9a98"/><rect x="90" y="120" width="1020" height="660" rx="60" fill="#d7dedc"/>
<ellipse cx="600" cy="470" rx="330" ry="230" fill="#e9c9a2"/><ellipse cx="600" cy="400" rx="230" ry="140" fill="#f1d8b6"/>
<path d="M330 560q-120 40-150 130q70 30 150-60zM870 560q120 40 150 130q-70 30-150-60z" fill="#e3bd92"/>
<path d="M600 280q-14 150 0 330" stroke="#d8b185" stroke-width="8" fill="none"/>
<path d="M690 360q60 40 90 110q-70-20-110-60z" fill="#b9574a"/><path d="M690 360q60 40 90 110" stroke="#8d3b31" stroke-width="6" fill="none"/>
<rect x="150" y="170" width="300" height="80" rx="10" fill="#fdfdfb"/><text x="175" y="224" font-family="sans-serif" font-size="40" fill="#222">crate 3 of 4</text></svg>`

/** A delivery of birds that came with torn skin: what was seen, a picture, and the claim that is still open. */
export async function fillDoor(tx: KitchenRecords): Promise<void> {
  const birds = await tx.items.findAll({ attributes: ['id'], where: { animal: 'bird', kind: 'whole' }, raw: true })
  const where = { itemId: birds.map(({ id }) => id), status: 'finished' as const }
  const run = found(await tx.runs.findOne({ where, order: [['startedAt', 'DESC']] }))
  const note = 'Skin torn over the breast on two of them; taken for cutting, not for roasting whole.'
  const looked = { skin: 'torn', size: 'as ordered', colour: 'right', smell: 'clean' }
  await tx.runs.update({ deliveryCheck: { looked, outcome: 'with-note', note, refused: null, refusedPieces: null } }, { id: run.id })
  const jpeg = await sharp(Buffer.from(tornBird)).jpeg({ quality: 82 }).toBuffer()
  const made = { runId: run.id, personId: run.cookId, at: run.startedAt }
  await tx.pictures.create({ ...(await readPicture(jpeg)), ...made, id: uuidv7(), about: 'delivery', defectId: null })
  await tx.claims.create({
    ...{ ...made, id: uuidv7(), number: await takeClaimNumber(tx), kinds: ['torn skin'], words: note },
    ...{ asked: 9.3, state: 'open', at: new Date(run.startedAt.getTime() + 40 * 60_000) },
  })
}

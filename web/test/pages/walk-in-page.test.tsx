/** @jest-environment jest-fixed-jsdom */
import './surroundings.ts'
import type { Lot, LotMove } from '@fleam/contract/walk-in'
import { screen, waitFor } from '@testing-library/react'
import { demoHouse, field, fill, hand, press, settledHeading, startTenderloin } from './house.tsx'

const house = demoHouse('Tobias Quill', 'ebb lamp rope quay')

type WithMoves = Lot & { moves: LotMove[] }
const lots = () => house.list<Lot>('/lots')
const lotOf = (id: string) => house.ask<WithMoves>('GET', `/lots/${id}`)
const today = new Date().toISOString().slice(0, 10)

/** A lot of the test's own: a kilo and a half of one by-product, from a run that was just finished. */
async function freshLot(): Promise<Lot> {
  const { run, weigh } = await startTenderloin(house)
  const tub = run.tubs.findIndex(({ role }) => role === 'byproduct')
  await weigh(tub, '1500 g')
  await house.ask('POST', `/runs/${run.id}/finish`, { version: run.version, minutes: 9, unaccountedReason: 'the rest was not weighed' })
  const lot = (await lots()).find((one) => one.run?.id === run.id)
  expect(lot).toMatchObject({ leftTenths: 15_000, leftPortions: null, state: 'chilled', isBlocked: false })
  return lot as Lot
}

async function open(lot: Lot): Promise<void> {
  await house.open(`/walk-in/${lot.id}`)
  await settledHeading()
  await screen.findByRole('heading', { name: 'Its books' })
}
const becomes = (id: string, expected: object) => waitFor(async () => expect(await lotOf(id)).toMatchObject(expected))

test('some is taken for a dish, by weight; more than there is is said while it is typed, and taking back puts it back', async () => {
  const lot = await freshLot()
  await open(lot)
  await fill('Or how much', `${lot.leftTenths / 10 + 5000} g`)
  expect(await screen.findByText(/^Only .* are left/)).toBeTruthy()
  expect((await screen.findByRole('button', { name: /^Take (?!back)/ })).hasAttribute('disabled')).toBe(true)
  await fill('Or how much', '200 g')
  await fill('Which dish', 'Friday’s skewers')
  await press(/^Take 200.g$/)
  await becomes(lot.id, { leftTenths: lot.leftTenths - 2000 })
  await press('Take back: Taken Friday’s skewers')
  await becomes(lot.id, { leftTenths: lot.leftTenths })
})

test('what is thrown away wants a reason, and counts as thrown away', async () => {
  const lot = await freshLot()
  await open(lot)
  await hand.click(await field('Thrown away'))
  const throwAway = await screen.findByRole('button', { name: /^Throw away/ })
  expect(throwAway.hasAttribute('disabled')).toBe(true)
  await press('dropped')
  await hand.click(throwAway)
  await waitFor(async () =>
    expect((await lotOf(lot.id)).moves.at(-1)).toMatchObject({ kind: 'take', takenFor: 'thrown away', note: 'dropped' }),
  )
  expect((await lotOf(lot.id)).leftTenths).toBe(0)
})

test('frozen it stands still and cannot go to a dish; thawed its clock goes on', async () => {
  const lot = await freshLot()
  await open(lot)
  await press('Freeze')
  await becomes(lot.id, { state: 'frozen' })
  expect(await screen.findByText('It is frozen: thaw it first.')).toBeTruthy()
  expect((await screen.findByRole('button', { name: /^Take (?!back)/ })).hasAttribute('disabled')).toBe(true)
  await press('Thaw')
  await becomes(lot.id, { state: 'thawed' })
  const { useBy } = await lotOf(lot.id)
  expect(useBy >= today).toBe(true)
  expect(useBy <= lot.useBy || useBy > today).toBe(true)
})

test('moved to another place it lies there', async () => {
  const lot = await freshLot()
  await open(lot)
  const place = (await field('Place')) as HTMLSelectElement
  const other = [...place.options].map(({ value }) => value).find((value) => value !== lot.place) ?? ''
  expect((await screen.findByRole('button', { name: 'Move it there' })).hasAttribute('disabled')).toBe(true)
  await hand.selectOptions(place, other)
  await press('Move it there')
  await becomes(lot.id, { place: other })
})

test('split into packs it weighs the same altogether', async () => {
  const lot = await freshLot()
  await open(lot)
  const before = await lots()
  await fill('How many packs', 'some')
  expect((await screen.findByRole('button', { name: 'Split into packs:' })).hasAttribute('disabled')).toBe(true)
  await fill('How many packs', '3')
  await press('Split into packs:')
  await waitFor(async () => expect(await lots()).toHaveLength(before.length + 2))
  const packs = (await lots()).filter((one) => one.id === lot.id || !before.some(({ id }) => id === one.id))
  expect(packs.reduce((sum, { leftTenths }) => sum + leftTenths, 0)).toBe(lot.leftTenths)
  expect(Math.max(...packs.map(({ leftTenths }) => leftTenths)) - Math.min(...packs.map(({ leftTenths }) => leftTenths))).toBeLessThan(3)
})

test('counted, the books are put right with why', async () => {
  const lot = await freshLot()
  await open(lot)
  await hand.click(screen.getByText('Count what is really there'))
  await fill('There is', '431 g')
  expect((await screen.findByRole('button', { name: 'Put it down' })).hasAttribute('disabled')).toBe(true)
  await fill('Why it differs', 'a piece was eaten')
  await press('Put it down')
  await becomes(lot.id, { leftTenths: 4310 })
})

test('a lead blocks it with a reason; then it can only be thrown away, until it is released', async () => {
  const lot = await freshLot()
  await open(lot)
  await hand.click(screen.getByText(/^For a lead/))
  expect((await screen.findByRole('button', { name: 'Block it' })).hasAttribute('disabled')).toBe(true)
  await fill('Reason', 'a loose seal')
  await press('Block it')
  await becomes(lot.id, { isBlocked: true })
  expect(await screen.findByText(/Called back: it is not to be used/)).toBeTruthy()
  await hand.click(screen.getByLabelText('For a dish'))
  expect((await screen.findByRole('button', { name: /^Take (?!back)/ })).hasAttribute('disabled')).toBe(true)
  await fill('Reason', 'sealed anew')
  await press('Release it')
  await becomes(lot.id, { isBlocked: false })
})

test('a cook neither blocks nor keeps longer', async () => {
  const lot = await freshLot()
  await house.signIn('Ines Calloway', '4182')
  await open(lot)
  expect(screen.queryByText(/^For a lead/)).toBeNull()
  expect(screen.getByRole('button', { name: 'Freeze' })).toBeTruthy()
})

test('while the server is away it is taken on the tablet, shown so at once, and goes out once it is back', async () => {
  const lot = await freshLot()
  await open(lot)
  house.network(false)
  await fill('Or how much', '300 g')
  await fill('Which dish', 'Staff pie')
  await press(/^Take 300.g$/)
  const left = () => screen.getByText('Left', { selector: 'dt' }).nextElementSibling?.textContent?.replace(/\D/g, '')
  await waitFor(() => expect(left()).toContain(String((lot.leftTenths - 3000) / 10).replace('.', '')))
  await hand.keyboard('{Escape}')
  await press(/waiting on this (tablet|page)/)
  expect(await screen.findByText(/goes out in order, once each/)).toBeTruthy()
  house.network(true)
  expect((await lotOf(lot.id)).leftTenths).toBe(lot.leftTenths)
  await press('Try now')
  await becomes(lot.id, { leftTenths: lot.leftTenths - 3000 })
  expect((await lotOf(lot.id)).moves.filter(({ note }) => note === 'Staff pie')).toHaveLength(1)
})

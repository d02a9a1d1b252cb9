/** @jest-environment jest-fixed-jsdom */
import './surroundings.ts'
import type { Kitchen } from '@fleam/contract/kitchen'
import type { Session } from '@fleam/contract/people'
import type { Item } from '@fleam/contract/prices'
import type { Run, RunSummary } from '@fleam/contract/runs'
import type { Lot } from '@fleam/contract/walk-in'
import { screen, waitFor, within } from '@testing-library/react'
import { demoHouse, field, fill, hand, press, refusalOf, settledHeading } from './house.tsx'

const house = demoHouse('Maren Holt', 'tide-table-7')

const settings = async () => (await house.ask<Session>('GET', '/session')).kitchen.settings

describe('units, labour and limits', () => {
  test('a figure out of its bounds is refused where it stands, and nothing of the form is kept', async () => {
    await house.open('/kitchen/limits')
    await settledHeading()
    const before = await settings()
    await fill('Unaccounted loss, %', '120')
    await fill('Labour, an hour', 'a lot')
    await press('Keep')
    expect(await refusalOf('Unaccounted loss, %')).not.toBe('')
    expect(await refusalOf('Labour, an hour')).not.toBe('')
    expect(await settings()).toEqual(before)
  })

  test('decimals are read as the kitchen writes them, and what is kept is what everything reckons with', async () => {
    await house.open('/kitchen/limits')
    await settledHeading()
    await fill('Unaccounted loss, %', '2,5')
    await fill('Labour, an hour', '21.75')
    await press('Keep')
    expect(await screen.findByText('Kept.')).toBeTruthy()
    expect(await settings()).toMatchObject({ limits: { unaccountedPct: 2.5 }, labour: { ratePerHour: 21.75 } })
  })

  test('weights are shown in pounds and ounces from the moment that is kept, on every page', async () => {
    await house.open('/kitchen/limits')
    await settledHeading()
    await hand.click(await field('Pounds and ounces'))
    await press('Keep')
    expect(await screen.findByText('Kept.')).toBeTruthy()
    await house.go('/receive')
    await settledHeading()
    await fill(/^Received weight/, '6 lb 8 oz')
    expect(screen.getByLabelText(/^Received weight/).closest('.field')?.textContent).toMatch(/= 6\slb\s8\soz/)
    const kitchen = await house.ask<Session>('GET', '/session').then((session) => session.kitchen)
    await house.ask<Kitchen>('PUT', '/kitchen', {
      version: kitchen.version,
      name: kitchen.name,
      settings: { ...kitchen.settings, weightSystem: 'metric' },
      scalesConfirmed: true,
      printersConfirmed: true,
    })
  })

  test('somebody else’s change meanwhile is not overwritten: it is said, and what was typed is still there', async () => {
    await house.open('/kitchen/limits')
    await settledHeading()
    const { kitchen } = await house.ask<Session>('GET', '/session')
    await fill('Price move, %', '7')
    await house.ask('PUT', '/kitchen', {
      version: kitchen.version,
      name: kitchen.name,
      settings: { ...kitchen.settings, disposalPerKg: 0.31 },
      scalesConfirmed: true,
      printersConfirmed: true,
    })
    await press('Keep')
    expect(await screen.findByText(/Nothing was changed/)).toBeTruthy()
    expect(await settings()).toMatchObject({ disposalPerKg: 0.31, limits: { priceMovePct: kitchen.settings.limits.priceMovePct } })
  })
})

describe('tablets', () => {
  test('a device becomes one of the kitchen’s, is listed, and is let go again', async () => {
    await house.open('/kitchen/tablets')
    await settledHeading()
    await press('Enrol this device')
    expect(await refusalOf('What it is called')).not.toBe('')
    await fill('What it is called', 'Fish bench')
    await press('Enrol this device')
    const letGo = await screen.findByRole('button', { name: 'Let Fish bench go' })
    expect(await screen.findByText(/Fish bench/, { selector: 'td' })).toBeTruthy()
    await hand.click(letGo)
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Let Fish bench go' })).toBeNull())
  })
})

describe('from paper', () => {
  const beef = async () => {
    await house.open('/receive/paper')
    await settledHeading()
    const item = (await house.list<Item>('/items?limit=200')).find(({ name }) => name.startsWith('Beef tenderloin'))
    await hand.selectOptions(await field('What came'), item?.id ?? '')
  }

  test('nothing typed is refused by field; more off than on is said while it is typed, and not taken', async () => {
    await beef()
    const [before] = await house.list<RunSummary>('/runs?limit=1')
    await press('Enter the run')
    expect(await refusalOf('Billed weight')).not.toBe('')
    await fill('Billed weight', '2950 g')
    await fill('Received weight', '2936 g')
    await fill('Knife time, minutes', '14')
    const [cell] = within(screen.getByRole('table')).getAllByRole('textbox')
    await hand.type(cell as HTMLElement, '3100')
    expect(await screen.findByText(/more came off than went on/)).toBeTruthy()
    await press('Enter the run')
    await waitFor(() => expect(screen.getAllByRole('alert').length).toBeGreaterThan(0))
    expect((await house.list<RunSummary>('/runs?limit=1'))[0]?.id).toBe(before?.id)
  })

  test('an hour that is none is refused by its field; a run that was typed in full is finished and in the log', async () => {
    await beef()
    await fill('Billed weight', '2950 g')
    await fill('Received weight', '2936 g')
    await fill('Knife time, minutes', '14')
    await fill('Begun at, hour', 'after lunch')
    const cells = within(screen.getByRole('table')).getAllByRole('textbox')
    await hand.type(cells[0] as HTMLElement, '1840')
    await fill('Where it went', 'not weighed that day')
    await press('Enter the run')
    expect(await refusalOf('Begun at, hour')).toMatch(/09:30/)
    await fill('Begun at, hour', '10:15')
    await press('Enter the run')
    await waitFor(() => expect(window.location.pathname).toMatch(/^\/runs\//))
    const run = await house.ask<Run>('GET', `/runs/${window.location.pathname.split('/').at(-1)}`)
    expect(run).toMatchObject({ status: 'finished', minutes: 14, unaccountedReason: 'not weighed that day' })
    expect(run.weighings.map(({ tenths }) => tenths)).toEqual([18_400])
  })
})

describe('boxes', () => {
  test('what is no box code says so; a scanned box stands through a reload, and goes on the books once', async () => {
    await house.open('/receive/boxes')
    await settledHeading()
    const scan = await field('Scan a box')
    await hand.type(scan, 'not a code{Enter}')
    expect(await screen.findByText(/That is no GS1 code/)).toBeTruthy()
    await hand.clear(scan)
    await hand.type(scan, '(01)09512345678901(3102)001250(10)T-44{Enter}')
    expect(await screen.findByRole('region', { name: 'Box 1' })).toBeTruthy()
    await house.open('/receive/boxes')
    await settledHeading()
    expect((await screen.findByRole('region', { name: 'Box 1' })).textContent).toContain('T-44')
    const item = (await house.list<Item>('/items?limit=200')).find(({ name }) => name.startsWith('Beef tenderloin'))
    await hand.selectOptions(await field(/Which item is it/), item?.id ?? '')
    await press(/^Put .* on the books$/)
    await waitFor(async () => {
      const lots = (await house.list<Lot>('/lots')).filter(({ supplierLot }) => supplierLot === 'T-44')
      expect(lots.map(({ leftTenths }) => leftTenths)).toEqual([125_000])
    })
  })
})

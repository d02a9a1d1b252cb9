/** @jest-environment jest-fixed-jsdom */
import './surroundings.ts'
import type { DishNeed } from '@fleam/contract/dishes'
import type { Person } from '@fleam/contract/people'
import type { Item, Quote, Supplier } from '@fleam/contract/prices'
import type { Run, RunSummary } from '@fleam/contract/runs'
import { screen, waitFor, within } from '@testing-library/react'
import { demoHouse, field, fill, hand, press, refusalOf, settledHeading, startTenderloin } from './house.tsx'

const house = demoHouse('Maren Holt', 'tide-table-7')

const link = (name: string | RegExp) => screen.findByRole('link', { name })

const runs = () => house.list<RunSummary>('/runs?limit=200')

describe('receiving', () => {
  const open = async () => {
    await house.open('/receive')
    await settledHeading()
    const beef = (await house.list<Item>('/items?limit=200')).find(({ name }) => name.startsWith('Beef tenderloin'))
    await hand.selectOptions(await field('What came'), beef?.id ?? '')
  }

  test('a weight that is none is told so where it is typed, and nothing is sent', async () => {
    await open()
    const [before] = await runs()
    await fill(/^Billed weight/, 'two boxes')
    await fill(/^Received weight/, '2.9 kg')
    expect(screen.getByLabelText(/^Received weight/).closest('.field')?.textContent).toMatch(/= 2\D?900\sg/)
    await press('To the bench')
    expect(await refusalOf(/^Billed weight/)).not.toBe('')
    expect((await runs())[0]?.id).toBe(before?.id)
    expect((await field(/^Billed weight/)).getAttribute('value')).toBe('two boxes')
  })

  test('what came too warm needs a decision, the decision its reason, and both are on record', async () => {
    await open()
    await fill(/^Billed weight/, '2950 g')
    await fill(/^Received weight/, '2936 g')
    await fill(/^Core temperature/, '11')
    expect(await screen.findByText(/11 °C is over the house limit/)).toBeTruthy()
    expect(screen.getByText(/Local food code decides/)).toBeTruthy()
    await press('To the bench')
    await waitFor(() => expect(screen.getByLabelText('Why, and what was done').getAttribute('aria-invalid')).toBe('true'))
    await hand.click(screen.getByLabelText('Turned away'))
    await fill('Why, and what was done', 'Stood on the quay')
    await press('Turn it away')
    await waitFor(() => expect(window.location.pathname).toMatch(/^\/runs\//))
    await settledHeading()
    const [run] = await runs()
    expect(run?.status).toBe('turned-away')
    expect((await house.ask<Run>('GET', `/runs/${run?.id}`)).temperature).toMatchObject({
      decision: 'turn-away',
      note: 'Stood on the quay',
    })
  })

  test('weights that look wrong are asked about once; who says that they stand is believed', async () => {
    await open()
    await fill(/^Billed weight/, '290 kg')
    await fill(/^Received weight/, '290 kg')
    await press('To the bench')
    const stands = await field('Looked at again: the weights and the count stand')
    await hand.click(stands)
    await press('To the bench')
    await waitFor(() => expect(window.location.pathname).toMatch(/^\/bench\//))
    expect((await runs())[0]?.received.tenths).toBe(2_900_000)
  })

  test('while the server is away what is typed stays, also through another page, and goes out once', async () => {
    await open()
    await fill(/^Billed weight/, '2950 g')
    await fill(/^Received weight/, '2936 g')
    await fill('Lot', '7-Q')
    house.network(false)
    await press('To the bench')
    expect(await screen.findByText(/cannot be reached/)).toBeTruthy()
    house.network(true)
    await house.open('/receive')
    await settledHeading()
    await waitFor(() => expect(screen.getByLabelText('Lot').getAttribute('value')).toBe('7-Q'))
    const go = await screen.findByRole('button', { name: 'To the bench' })
    await Promise.all([hand.click(go), hand.click(go)])
    await waitFor(() => expect(window.location.pathname).toMatch(/^\/bench\//))
    expect((await runs()).filter(({ lot }) => lot === '7-Q')).toHaveLength(1)
  })
})

describe('finishing', () => {
  test('weight that nobody can account for wants a word, and the run closes with it', async () => {
    const { run, weigh } = await startTenderloin(house)
    for (const weight of ['184 g', '180 g', '178 g']) await weigh(0, weight)
    await house.open(`/runs/${run.id}/finish`)
    expect(await settledHeading()).toContain(`run ${run.number}`)
    expect(screen.getByText(/Was anything left unweighed/)).toBeTruthy()
    await press('Close the run')
    expect(await refusalOf('Where it went')).toMatch(/say where/i)
    await fill('Knife time, minutes', 'a while')
    await fill('Where it went', 'The chain went into the grind unweighed')
    await press('Close the run')
    expect(await refusalOf('Knife time, minutes')).not.toBe('')
    await fill('Knife time, minutes', '14')
    await press('Close the run')
    await waitFor(() => expect(window.location.pathname).toBe(`/runs/${run.id}`))
    expect(await screen.findByText('Where the weight went')).toBeTruthy()
    expect(await house.ask<Run>('GET', `/runs/${run.id}`)).toMatchObject({
      status: 'finished',
      minutes: 14,
      unaccountedReason: 'The chain went into the grind unweighed',
    })
  })

  test('more on the tray than came cannot be closed, and says what to do', async () => {
    const { run, weigh } = await startTenderloin(house)
    await weigh(0, '2990 g')
    await house.open(`/runs/${run.id}/finish`)
    await settledHeading()
    expect(screen.getByText(/more came off the board than went on it/)).toBeTruthy()
    expect((await screen.findByRole('button', { name: 'Close the run' })).hasAttribute('disabled')).toBe(true)
    expect((await link(/go back and take it back/)).getAttribute('href')).toBe(`/bench/${run.id}`)
  })

  test('a run that somebody else has closed meanwhile says so', async () => {
    const { run, weigh } = await startTenderloin(house)
    await weigh(0, '184 g')
    await house.open(`/runs/${run.id}/finish`)
    await settledHeading()
    const finish = { version: run.version, minutes: 9, unaccountedReason: 'a test' }
    await house.ask('POST', `/runs/${run.id}/finish`, finish)
    await fill('Where it went', 'elsewhere')
    await press('Close the run')
    expect((await link(/This run is closed: see the result/)).getAttribute('href')).toBe(`/runs/${run.id}`)
    expect((await house.ask<Run>('GET', `/runs/${run.id}`)).unaccountedReason).toBe('a test')
  })

  test('what a part is worth is kept when the field is left, and stands in the next run', async () => {
    const { run } = await startTenderloin(house)
    await house.open(`/runs/${run.id}/finish`)
    await settledHeading()
    const worth = screen.getByRole('group', { name: /What the parts are worth/ })
    const [part] = run.tubs.filter(({ role }) => role === 'byproduct')
    const control = within(worth).getByLabelText(part?.name ?? '')
    await hand.clear(control)
    await hand.type(control, '7.35')
    await hand.tab()
    await waitFor(async () => {
      const { tubs } = await house.ask<Run>('GET', `/runs/${run.id}`)
      expect(tubs.find(({ id }) => id === part?.id)?.valuePerKg).toBe(7.35)
    })
    const next = await startTenderloin(house)
    expect(next.run.tubs.find(({ key }) => key === part?.key)?.valuePerKg).toBe(7.35)
  })
})

describe('the books', () => {
  test('a person needs a name that is free and a secret that fits the role', async () => {
    await house.open('/kitchen/people')
    await settledHeading()
    await press('Add a person')
    const panel = within(await screen.findByRole('dialog'))
    await hand.type(panel.getByLabelText('Name, to sign in with'), 'Ines Calloway')
    await hand.type(panel.getByLabelText('PIN'), '12')
    await hand.click(panel.getByRole('button', { name: 'Keep' }))
    expect(await refusalOf('PIN')).toMatch(/4/)
    await fill('PIN', '590317')
    await hand.click(panel.getByRole('button', { name: 'Keep' }))
    expect(await refusalOf('Name, to sign in with')).toMatch(/taken/)
    await fill('Name, to sign in with', 'Rowan Ashdown')
    await hand.click(panel.getByRole('button', { name: 'Keep' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(await screen.findByText('Rowan Ashdown')).toBeTruthy()
    expect((await house.list<Person>('/people')).find(({ name }) => name === 'Rowan Ashdown')).toMatchObject({ role: 'cook', active: true })
  })

  test('a supplier that was changed elsewhere meanwhile is shown as it stands, and nothing is lost', async () => {
    await house.open('/kitchen/prices')
    await settledHeading()
    const suppliers = await house.list<Supplier>('/suppliers')
    const one = suppliers.find(({ feed }) => feed === null) as Supplier
    await press(`Change ${one.name}`)
    const panel = within(await screen.findByRole('dialog'))
    const name = panel.getByLabelText('Name')
    await hand.clear(name)
    await hand.type(name, `${one.name}, quay side`)
    await house.ask('PUT', `/suppliers/${one.id}`, { version: one.version, name: `${one.name} & Daughter`, feed: null })
    await hand.click(panel.getByRole('button', { name: 'Keep' }))
    expect(await panel.findByText(/Nothing was changed/)).toBeTruthy()
    expect(panel.getByLabelText('Name').getAttribute('value')).toBe(`${one.name}, quay side`)
    expect((await house.list<Supplier>('/suppliers')).find(({ id }) => id === one.id)?.name).toBe(`${one.name} & Daughter`)
  })

  test('a price is read in the kitchen’s own way of writing, and what is none is refused where it stands', async () => {
    await house.open('/kitchen/prices')
    await settledHeading()
    const [item] = (await house.list<Item>('/items?limit=200')).filter(({ kind }) => kind === 'whole')
    await press(`Quotes of ${item?.name}`)
    const panel = within(await screen.findByRole('dialog'))
    await hand.click(await panel.findByRole('button', { name: /Add/ }))
    expect(await panel.findAllByRole('alert')).not.toHaveLength(0)
    const [price] = await panel.findAllByLabelText(/^Price/)
    await hand.type(price as HTMLElement, '12.345')
    await hand.click(panel.getByRole('button', { name: /Add/ }))
    await waitFor(async () => {
      const quotes = await house.list<Quote>(`/items/${item?.id}/quotes`)
      expect(quotes.map((quote) => quote.price.amount)).toContain(12.345)
    })
  })

  test('a dish that waits for a second product is added, taken off, and put back by undo', async () => {
    await house.open('/kitchen/dishes')
    await settledHeading()
    await press('Add the dish')
    expect(await refusalOf('Dish')).not.toBe('')
    await fill('Dish', 'Friday’s skewers')
    await fill('How much', '1.4 kg')
    await press('Add the dish')
    expect(await screen.findByText('Friday’s skewers')).toBeTruthy()
    await waitFor(() => expect(screen.getByLabelText('Dish').getAttribute('value')).toBe(''))
    await press('Take Friday’s skewers off the list')
    await waitFor(() => expect(screen.queryByText('Friday’s skewers')).toBeNull())
    await press('Undo')
    expect(await screen.findByText('Friday’s skewers')).toBeTruthy()
    await waitFor(async () =>
      expect((await house.list<DishNeed>('/dish-needs')).find(({ dish }) => dish === 'Friday’s skewers')?.need.tenths).toBe(14_000),
    )
  })

  test('a change that cannot be sent is taken back on the page, and says why', async () => {
    await house.open('/kitchen/dishes')
    await settledHeading()
    const [need] = await house.list<DishNeed>('/dish-needs')
    const button = await screen.findByRole('button', { name: `Take ${need?.dish} off the list` })
    house.network(false)
    await hand.click(button)
    expect(await screen.findByText(/cannot be reached/)).toBeTruthy()
    expect(screen.getByRole('button', { name: `Take ${need?.dish} off the list` })).toBeTruthy()
  })
})

describe('one’s own', () => {
  test('a passphrase is changed by who knows the present one, and only to one that is long enough', async () => {
    await house.signIn('Adaeze Lindqvist', 'salt gull north buoy')
    await house.open('/account')
    await settledHeading()
    await fill('The present one', 'not this at all')
    await fill('The new one', 'grey heron at low tide')
    await press('Change it')
    expect(await refusalOf('The present one')).toMatch(/not the present one/)
    await fill('The present one', 'salt gull north buoy')
    await fill('The new one', 'short')
    await press('Change it')
    expect(await refusalOf('The new one')).toMatch(/12/)
    await fill('The new one', 'grey heron at low tide')
    await press('Change it')
    await waitFor(() => expect(screen.getByLabelText('The new one').getAttribute('value')).toBe(''))
    await house.signIn('Adaeze Lindqvist', 'grey heron at low tide')
  })

  test('who is signed out elsewhere signs in again over the page, and what was typed is still there', async () => {
    await house.open('/kitchen/dishes')
    await settledHeading()
    await fill('Dish', 'Sunday’s confit')
    await fill('How much', '900 g')
    await house.ask('DELETE', '/session')
    await press('Add the dish')
    await fill('PIN or passphrase of Maren Holt', 'tide-table-7')
    await press('Sign in again')
    await waitFor(() => expect(screen.queryByRole('form', { name: 'Sign in again' })).toBeNull())
    expect((await field('Dish')).getAttribute('value')).toBe('Sunday’s confit')
    await press('Add the dish')
    expect(await screen.findByText('Sunday’s confit')).toBeTruthy()
  })
})

describe('who may what', () => {
  test.each([
    ['Ines Calloway', '4182', '/kitchen/people', 'Add a person'],
    ['Ines Calloway', '4182', '/kitchen/prices', 'Read in a price list'],
    ['Ines Calloway', '4182', '/kitchen/dishes', 'Add the dish'],
    ['Tobias Quill', 'ebb lamp rope quay', '/kitchen/people', 'Add a person'],
  ])('%s (%s) sees %s without “%s”', async (name, secret, path, button) => {
    await house.signIn(name, secret)
    await house.open(path)
    expect(await settledHeading()).not.toBe('')
    expect(screen.queryByRole('button', { name: button })).toBeNull()
  })

  test('a student’s bar holds the places of a student, and the Board leads to their class', async () => {
    await house.signIn('Wren Fairlight', '5093')
    await house.open('/')
    expect(await settledHeading()).toBe('Classes')
    const places = within(screen.getByRole('navigation', { name: 'Places' })).getAllByRole('link')
    expect(places.map(({ textContent }) => textContent)).toEqual(['Bench', 'Cut sheets', 'School'])
  })
})

/** @jest-environment jest-fixed-jsdom */
import './surroundings.ts'
import { screen, waitFor } from '@testing-library/react'
import type { RouteObject } from 'react-router'
import { openRouter } from '../../src/app/router.tsx'
import { fetching, type House, hand, openHouse, settledHeading } from './house.tsx'

/** Addresses of all pages for who is signed in; what stands for an id is put in from what the kitchen has. */
function addresses(): string[] {
  const router = openRouter()
  const all: string[] = []
  const walk = (routes: readonly RouteObject[], above: string) => {
    for (const { path, index, children } of routes) {
      const own = path ? `${above}/${path}`.replace('//', '/') : above
      if ((path || index) && !children) all.push(own || '/')
      walk(children ?? [], own === '/' ? '' : own)
    }
  }
  walk(router.routes as RouteObject[], '')
  router.dispose()
  return all.filter((address) => !['/sign-in', '/set-up', '/kitchen'].includes(address))
}

const pages = addresses()
const withId = pages.filter((address) => /:\w+(?!\?)($|\/)/.test(address))
const withoutId = pages.filter((address) => !withId.includes(address)).map((address) => address.replace(/\/:\w+\?$/, ''))

let house: House
afterEach(() => expect(house.complaints()).toEqual([]))

describe('in the demo kitchen', () => {
  let ids: Record<string, string>
  beforeAll(async () => {
    house = await openHouse({ demo: true })
    await house.signIn('Maren Holt', 'tide-table-7')
    const first = async (path: string) => (await house.list<{ id: string }>(path))[0]?.id ?? ''
    const [open, finished] = [await first('/runs?status=open&limit=1'), await first('/runs?status=finished&limit=1')]
    const items = await house.list<{ id: string; name: string }>('/items?limit=200')
    ids = {
      '/bench/:id': open,
      '/runs/:id/finish': open,
      '/runs/:id/put-right': finished,
      '/runs/:id': finished,
      '/cut-sheets/:id': await first('/cut-sheets?limit=1'),
      '/cut-sheets/:id/drawing': await first('/cut-sheets?limit=1'),
      '/cut-sheets/:id/edit': await first('/cut-sheets?limit=1'),
      '/school/classes/:id': await first('/exercises'),
      '/days/:id': await first('/days'),
      '/days/:id/hands': await first('/days'),
      '/days/:id/schedule': await first('/days'),
      '/days/:id/sheets': await first('/days'),
      '/compare/parts/:itemId': items.find(({ name }) => name.startsWith('Chicken, whole'))?.id ?? '',
      '/compare/kept/:id': await first('/comparisons'),
      '/walk-in/follow-ons/:id': await first('/follow-ons'),
      '/log/claims/:id': await first('/claims'),
    }
  })
  const filled = (address: string) => {
    expect(ids[address]).toBeTruthy()
    return address.replace(/:\w+/, ids[address] ?? '')
  }

  test('every page that is about one thing has one to be about', () => {
    expect(Object.keys(ids).sort()).toEqual([...withId].sort())
  })

  test.each(pages)('%s says what it is, and nothing is amiss', async (address) => {
    const place = withId.includes(address) ? filled(address) : address.replace(/\/:\w+\?$/, '')
    await house.open(address === '/*' ? '/nowhere' : place)
    expect(await settledHeading()).not.toBe('')
    expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull()
    expect(screen.getAllByRole('main')).toHaveLength(1)
  })

  test.each(withId)('%s of what is not there says so, with a way on', async (address) => {
    await house.open(address.replace(/:\w+/, '01900000-0000-7000-8000-000000000000'))
    await waitFor(() => expect(screen.getByRole('main').textContent).toMatch(/no such|not in the|leads to no/i))
  })
})

describe.each([
  ['a student', 'Wren Fairlight', '5093'],
  ['a cook', 'Ines Calloway', '4182'],
])('in the demo kitchen, for %s', (_role, name, secret) => {
  beforeAll(() => house.signIn(name, secret))

  test.each(withoutId)('%s is there, or says for whom it is, with a way on', async (address) => {
    await house.open(address === '/*' ? '/nowhere' : address)
    await waitFor(() => expect(screen.queryByText(fetching)).toBeNull())
    const main = await screen.findByRole('main')
    await waitFor(() => expect(main.textContent?.length).toBeGreaterThan(30))
    expect(screen.queryByText('This page has failed')).toBeNull()
    // what is refused for the role is refused again however often it is asked
    expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull()
  })
})

describe('in the demo kitchen, while the server is away', () => {
  beforeAll(() => house.signIn('Maren Holt', 'tide-table-7'))
  afterAll(() => house.close())

  test.each(withoutId)('%s says so, and is there once the server is back', async (address) => {
    // who is signed in is known; everything else is to be fetched
    await house.open('/nowhere')
    await settledHeading()
    house.network(false)
    try {
      await house.go(address === '/*' ? '/nowhere-else' : address)
      await waitFor(() => expect(screen.queryByText(fetching)).toBeNull())
      const again = screen.queryAllByRole('button', { name: 'Try again' })
      house.network(true)
      for (const button of again) await hand.click(button)
      expect(await settledHeading()).not.toBe('')
      expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull()
    } finally {
      house.network(true)
    }
  })
})

describe('in a kitchen with nothing in it', () => {
  beforeAll(async () => {
    house = await openHouse({ demo: false })
    await house.ask('POST', '/setup', { kitchenName: 'New', currency: 'EUR', name: 'Wren', secret: 'four wet oars' })
    await house.signIn('Wren', 'four wet oars')
  })
  afterAll(() => house.close())

  test.each(withoutId)('%s says what it will show, rather than nothing', async (address) => {
    await house.open(address === '/*' ? '/nowhere' : address)
    expect(await settledHeading()).not.toBe('')
    expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull()
    expect(screen.getByRole('main').textContent?.length).toBeGreaterThan(30)
  })
})

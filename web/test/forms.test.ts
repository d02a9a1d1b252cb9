import { cutSheetBody, stepKey } from '@fleam/contract/cut-sheets'
import { catalog } from '../../catalog/sheets.ts'
import { sheetFieldsOf, sheetOfFields } from '../src/features/cut-sheets/sheet-fields.ts'
import { dayText, momentText, standIn, timeText, today } from '../src/ui/days.ts'
import { sheetOf } from './kitchen.ts'

describe('a cut sheet in the editor', () => {
  test('an optional step is known by its first title, however it is called later', () => {
    const { body } = sheetOf('chicken-supremes-and-legs')
    const fields = sheetFieldsOf(body)
    const steps = fields.body.steps.map((step) => (step.title === 'Free the wishbone' ? { ...step, title: 'Wishbone first' } : step))
    const step = sheetOfFields({ ...fields, body: { ...fields.body, steps } }, body).steps.find(({ title }) => title === 'Wishbone first')
    expect(step && stepKey(step)).toBe('Free the wishbone')
  })

  test('every sheet of the catalog is the same after it was opened and written unchanged', () => {
    for (const { slug } of catalog as { slug: string }[]) {
      const { body } = sheetOf(slug)
      expect([slug, cutSheetBody.parse(sheetOfFields(sheetFieldsOf(body), body))]).toEqual([slug, body])
    }
  })

  test('what is emptied is left out; what is no number is refused by the contract', () => {
    const { body } = sheetOf('beef-tenderloin-traditional')
    const fields = sheetFieldsOf(body)
    const [first] = fields.body.steps
    Object.assign(first ?? {}, { minutes: ' ', caution: '', outputs: [] })
    fields.body.outputs[0] = { ...(fields.body.outputs[0] as (typeof fields.body.outputs)[number]), isPortioned: false }
    const written = sheetOfFields(fields, body)
    expect(written.steps[0]).not.toHaveProperty('minutes')
    expect(written.steps[0]).not.toHaveProperty('outputs')
    expect(written.outputs[0]).not.toHaveProperty('portion')
    fields.body.weightKg.low = 'heavy'
    const { error } = cutSheetBody.safeParse(sheetOfFields(fields, body))
    expect(error?.issues.map((issue) => issue.path.join('.'))).toEqual(['weightKg.low'])
  })
})

describe('days and hours', () => {
  afterEach(() => standIn({ locale: 'en-GB', timeZone: 'UTC' }))

  test('are those of the kitchen, wherever the tablet stands; a calendar day never moves', () => {
    standIn({ locale: 'en-GB', timeZone: 'Pacific/Auckland' })
    expect([dayText('2026-03-14'), dayText('2026-03-14T20:00:00Z'), timeText('2026-03-14T20:05:00Z')]).toEqual([
      '14 Mar 2026',
      '15 Mar 2026',
      '09:05',
    ])
    standIn({ locale: 'de-DE', timeZone: 'America/Los_Angeles' })
    expect([dayText('2026-03-14'), momentText('2026-03-14T03:00:00Z')]).toEqual(['14. März 2026', '13. März, 20:00'])
  })

  test('today is the kitchen’s', () => {
    jest.useFakeTimers({ now: new Date('2026-03-14T23:30:00Z') })
    standIn({ locale: 'en-GB', timeZone: 'Europe/Athens' })
    expect(today()).toBe('2026-03-15')
    jest.useRealTimers()
  })
})

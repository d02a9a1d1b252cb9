import { dayChange, dayCounts, dayCreate, dayRepeat, kitchenDay, plannedDay } from '@fleam/contract/day'
import { daySchedule, scheduleAsk, tickCreate } from '@fleam/contract/day-schedule'
import type { FastifyReply } from 'fastify'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { workFor } from '../../http/work-for.ts'
import { idParams, type Routes } from '../routes.ts'
import { calendarOfPerson, calendarText, dropCalendar, renewCalendar } from './calendar.ts'
import { planDay } from './plan-day.ts'
import { findSchedule, scheduleDay, schedulesUnderWay, tickJob } from './schedule-day.ts'
import { changeDay, countDay, createDay, dropDay, findDay, listDays, repeatDay } from './service.ts'

/** Each solve has ten seconds; one that takes them all is still answered, on a slow machine too. */
const mostPlanMs = 60_000

/** Days planned as a whole: who eats, what, what to buy for it and how to cut it. */
export const dayRoutes: Routes = (app, { db, heavyWork }) => {
  /** How far the plans are that are being made, by kitchen and day. */
  const underWay = new Map<string, number>()
  app.get(
    '/api/v1/days',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(kitchenDay) }) } } },
    async (request) => ({ entries: await listDays(signedIn(request).records) }),
  )
  app.get(
    '/api/v1/days/:id',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: kitchenDay } } },
    async (request) => found(await findDay(signedIn(request).records, request.params.id)),
  )
  app.post(
    '/api/v1/days',
    { config: { access: 'lead' }, schema: { body: dayCreate, response: { 201: kitchenDay } } },
    async (request, reply) => reply.code(201).send(await createDay(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/days/:id',
    { config: { access: 'lead' }, schema: { params: idParams, body: dayChange, response: { 200: kitchenDay } } },
    async (request) => changeDay(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/days/:id/drop',
    { config: { access: 'lead' }, schema: { params: idParams, body: z.object({ dropped: z.boolean() }) } },
    async (request, reply) => {
      await dropDay(signedIn(request), request.params.id, request.body.dropped)
      return reply.code(204).send()
    },
  )
  app.post(
    '/api/v1/days/:id/repeat',
    {
      config: { access: 'lead' },
      schema: { params: idParams, body: dayRepeat, response: { 200: z.object({ entries: z.array(kitchenDay) }) } },
    },
    async (request) => ({ entries: await repeatDay(signedIn(request), request.params.id, request.body.weeks) }),
  )
  app.post(
    '/api/v1/days/:id/counts',
    { config: { access: 'lead' }, schema: { params: idParams, body: dayCounts, response: { 200: kitchenDay } } },
    async (request, reply) => {
      const { version, text } = request.body
      const list = await heavyWork.run('readCsv', { text, separator: '' }, workFor(request, reply))
      return countDay(signedIn(request), request.params.id, version, list)
    },
  )
  app.post(
    '/api/v1/days/:id/plan',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: plannedDay } } },
    async (request, reply) => {
      const by = signedIn(request)
      const day = found(await findDay(by.records, request.params.id))
      const key = `${by.kitchen.id} ${day.id}`
      let solved = 0
      // the plan itself is the half of it; what is told beside it takes a few plans more
      const onProgress = (done: number) => underWay.set(key, 1 - 0.5 ** (solved + done))
      const work = { ...workFor(request, reply), limitMs: mostPlanMs, onProgress }
      try {
        return await planDay(by, day, async (input) => {
          const plan = await heavyWork.run('planBuying', input, work)
          solved += 1
          return plan
        })
      } finally {
        underWay.delete(key)
      }
    },
  )
  app.get(
    '/api/v1/days/:id/planning',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: z.object({ done: z.number() }) } } },
    async (request) => {
      const by = signedIn(request)
      const { id } = found(await findDay(by.records, request.params.id))
      return { done: underWay.get(`${by.kitchen.id} ${id}`) ?? 0 }
    },
  )
  app.post(
    '/api/v1/days/:id/schedule',
    { config: { access: 'lead' }, schema: { params: idParams, body: scheduleAsk, response: { 200: daySchedule } } },
    async (request, reply) => {
      const by = signedIn(request)
      const day = found(await findDay(by.records, request.params.id))
      const work = { ...workFor(request, reply), limitMs: mostPlanMs }
      return scheduleDay(by, day, request.body, {
        solve: (input) => heavyWork.run('planBuying', input, work),
        schedule: (input) => heavyWork.run('schedule', input, work),
      })
    },
  )
  app.get(
    '/api/v1/days/:id/schedule',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: daySchedule } } },
    async (request) => found(await findSchedule(signedIn(request), request.params.id)),
  )
  app.get(
    '/api/v1/schedules',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(daySchedule) }) } } },
    async (request) => ({ entries: await schedulesUnderWay(signedIn(request)) }),
  )
  app.post(
    '/api/v1/days/:id/ticks',
    { config: { access: 'cook' }, schema: { params: idParams, body: tickCreate, response: { 200: daySchedule } } },
    async (request) => tickJob(signedIn(request), request.params.id, request.body),
  )
  app.get(
    '/api/v1/days/:id/schedule.ics',
    { config: { access: 'cook' }, schema: { params: idParams, querystring: z.object({ who: z.string().max(60).default('') }) } },
    async (request, reply) => {
      const by = signedIn(request)
      const schedule = found(await findSchedule(by, request.params.id))
      const { who } = request.query
      const name = found(schedule.people.find((one) => one.who === who)).name
      return asCalendar(reply).send(calendarText(`${by.kitchen.name}: ${name}`, by.kitchen.settings.timeZone, [{ schedule, who }]))
    },
  )
  app.post(
    '/api/v1/account/calendar',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ path: z.string() }) } } },
    async (request) => ({ path: `/api/v1/calendars/${await renewCalendar(signedIn(request))}/fleam.ics` }),
  )
  app.delete(
    '/api/v1/account/calendar',
    { config: { access: 'cook' }, schema: { response: { 204: z.null() } } },
    async (request, reply) => {
      await dropCalendar(signedIn(request))
      return reply.code(204).send(null)
    },
  )
  // who knows the secret of a calendar's address reads that calendar, and nothing else
  app.get(
    '/api/v1/calendars/:token/fleam.ics',
    { config: { access: 'public' }, schema: { params: z.object({ token: z.string().max(100) }) } },
    async (request, reply) => asCalendar(reply).send(found(await calendarOfPerson(db, request.params.token))),
  )
}

const asCalendar = (reply: FastifyReply) =>
  reply.type('text/calendar; charset=utf-8').header('content-disposition', 'attachment; filename="fleam.ics"')

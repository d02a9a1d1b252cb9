import {
  bestMixAnswer,
  bestMixRequest,
  bondedPairAnswer,
  bondedPairRequest,
  cutInOrderAnswer,
  cutInOrderRequest,
  followOnAnswer,
  followOnRequest,
  makeOrBuyAnswer,
  makeOrBuyRequest,
  pairPiecesAnswer,
  pairPiecesRequest,
  portionsAnswer,
  portionsRequest,
  rackAnswer,
  rackRequest,
  yieldTestAnswer,
  yieldTestRequest,
} from '@fleam/contract/calc'
import { buyingPlanAnswer, buyingPlanRequest, scheduleAnswer, scheduleRequest } from '@fleam/contract/day'
import { makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { followOnCost } from '@fleam/core/follow-ons/follow-on-cost'
import { portionStatistics } from '@fleam/core/portions/portion-statistics'
import { yieldTest } from '@fleam/core/runs/yield-test'
import { workFor } from '../../http/work-for.ts'
import type { Routes } from '../routes.ts'

const config = { access: 'cook' } as const
/** Long lists of measured places come as one body. */
const bodyLimit = 256 * 1024

/** A plan has ten seconds, and as long as a slow machine needs to put it together. */
const mostPlanMs = 60_000

/** Calculations that store nothing, for scripts and spreadsheets. */
export const calcRoutes: Routes = (app, { heavyWork }) => {
  app.post(
    '/api/v1/calc/yield-test',
    { config, bodyLimit, schema: { body: yieldTestRequest, response: { 200: yieldTestAnswer } } },
    async (request) => yieldTest(request.body),
  )
  app.post(
    '/api/v1/calc/follow-on',
    { config, bodyLimit, schema: { body: followOnRequest, response: { 200: followOnAnswer } } },
    async (request) => followOnCost(request.body),
  )
  app.post(
    '/api/v1/calc/portions',
    { config, bodyLimit, schema: { body: portionsRequest, response: { 200: portionsAnswer } } },
    async (request) => portionStatistics(request.body),
  )
  app.post(
    '/api/v1/calc/make-or-buy',
    { config, bodyLimit, schema: { body: makeOrBuyRequest, response: { 200: makeOrBuyAnswer } } },
    async (request, reply) => {
      const { uncertainty, ...input } = request.body
      return uncertainty ? heavyWork.run('uncertainMakeOrBuy', { ...input, uncertainty }, workFor(request, reply)) : makeOrBuy(input)
    },
  )
  app.post(
    '/api/v1/calc/buying-plan',
    { config, bodyLimit, schema: { body: buyingPlanRequest, response: { 200: buyingPlanAnswer } } },
    async (request, reply) => heavyWork.run('planBuying', request.body, { ...workFor(request, reply), limitMs: mostPlanMs }),
  )
  app.post(
    '/api/v1/calc/schedule',
    { config, bodyLimit, schema: { body: scheduleRequest, response: { 200: scheduleAnswer } } },
    async (request, reply) => heavyWork.run('schedule', request.body, workFor(request, reply)),
  )
  app.post(
    '/api/v1/calc/pair-pieces',
    { config, bodyLimit, schema: { body: pairPiecesRequest, response: { 200: pairPiecesAnswer } } },
    async (request, reply) => heavyWork.run('pairPieces', request.body, workFor(request, reply)),
  )
  app.post(
    '/api/v1/calc/cut-in-order',
    { config, bodyLimit, schema: { body: cutInOrderRequest, response: { 200: cutInOrderAnswer } } },
    async (request, reply) => heavyWork.run('cutInOrder', request.body, workFor(request, reply)),
  )
  app.post(
    '/api/v1/calc/best-mix',
    { config, bodyLimit, schema: { body: bestMixRequest, response: { 200: bestMixAnswer } } },
    async (request, reply) => heavyWork.run('bestMix', request.body, workFor(request, reply)),
  )
  app.post(
    '/api/v1/calc/rack',
    { config, bodyLimit, schema: { body: rackRequest, response: { 200: rackAnswer } } },
    async (request, reply) => heavyWork.run('rackCuts', request.body, workFor(request, reply)),
  )
  app.post(
    '/api/v1/calc/bonded-pair',
    { config, bodyLimit, schema: { body: bondedPairRequest, response: { 200: bondedPairAnswer } } },
    async (request, reply) => heavyWork.run('bondedPair', request.body, workFor(request, reply)),
  )
}

import {
  bestMixAnswer,
  bestMixRequest,
  bondedPairAnswer,
  bondedPairRequest,
  cutInOrderAnswer,
  cutInOrderRequest,
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
import { makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { portionStatistics } from '@fleam/core/portions/portion-statistics'
import { yieldTest } from '@fleam/core/runs/yield-test'
import type { Routes } from '../routes.ts'

const config = { access: 'cook' } as const

/** Calculations that store nothing, for scripts and spreadsheets. */
export const calcRoutes: Routes = (app, { heavyWork }) => {
  app.post('/api/v1/calc/yield-test', { config, schema: { body: yieldTestRequest, response: { 200: yieldTestAnswer } } }, async (request) =>
    yieldTest(request.body),
  )
  app.post('/api/v1/calc/portions', { config, schema: { body: portionsRequest, response: { 200: portionsAnswer } } }, async (request) =>
    portionStatistics(request.body),
  )
  app.post(
    '/api/v1/calc/make-or-buy',
    { config, schema: { body: makeOrBuyRequest, response: { 200: makeOrBuyAnswer } } },
    async (request) => {
      const { uncertainty, ...input } = request.body
      return uncertainty ? heavyWork.run('uncertainMakeOrBuy', { ...input, uncertainty }) : makeOrBuy(input)
    },
  )
  app.post(
    '/api/v1/calc/pair-pieces',
    { config, schema: { body: pairPiecesRequest, response: { 200: pairPiecesAnswer } } },
    async (request) => heavyWork.run('pairPieces', request.body),
  )
  app.post(
    '/api/v1/calc/cut-in-order',
    { config, schema: { body: cutInOrderRequest, response: { 200: cutInOrderAnswer } } },
    async (request) => heavyWork.run('cutInOrder', request.body),
  )
  app.post('/api/v1/calc/best-mix', { config, schema: { body: bestMixRequest, response: { 200: bestMixAnswer } } }, async (request) =>
    heavyWork.run('bestMix', request.body),
  )
  app.post('/api/v1/calc/rack', { config, schema: { body: rackRequest, response: { 200: rackAnswer } } }, async (request) =>
    heavyWork.run('rackCuts', request.body),
  )
  app.post(
    '/api/v1/calc/bonded-pair',
    { config, schema: { body: bondedPairRequest, response: { 200: bondedPairAnswer } } },
    async (request) => heavyWork.run('bondedPair', request.body),
  )
}

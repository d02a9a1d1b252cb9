import type { Model, ModelStatic, Sequelize } from 'sequelize'
import { defineClaims } from '../features/claims/claim.model.ts'
import { defineExerciseRuns, defineExercises } from '../features/classes/exercise.model.ts'
import { defineMarks } from '../features/classes/mark.model.ts'
import { defineGroupMembers, defineStudentGroups } from '../features/classes/student-group.model.ts'
import { defineComparisons } from '../features/compare/comparison.model.ts'
import { defineCutSheets } from '../features/cut-sheets/cut-sheet.model.ts'
import { defineCutSheetVersions } from '../features/cut-sheets/cut-sheet-version.model.ts'
import { defineDays } from '../features/days/day.model.ts'
import { defineDaySchedules, defineDayTicks } from '../features/days/day-schedule.model.ts'
import { defineDishNeeds } from '../features/dishes/dish-need.model.ts'
import { defineFollowOns } from '../features/follow-ons/follow-on.model.ts'
import { defineFollowOnSheets } from '../features/follow-ons/follow-on-sheet.model.ts'
import { defineAuditTrail } from '../features/kitchen/audit-trail.model.ts'
import { defineKitchens } from '../features/kitchen/kitchen.model.ts'
import { defineInvitations } from '../features/kitchens/invitation.model.ts'
import { defineLabelPrints } from '../features/labels/label-print.model.ts'
import { defineOrders } from '../features/orders/order.model.ts'
import { definePeople } from '../features/people/person.model.ts'
import { definePictures } from '../features/pictures/picture.model.ts'
import { defineMeasuredProfiles } from '../features/plan/measured-profile.model.ts'
import { defineCuttingAttempts } from '../features/practice/cutting-attempt.model.ts'
import { defineGuesses } from '../features/practice/guess.model.ts'
import { definePracticeAnswers } from '../features/practice/practice-answer.model.ts'
import { defineFetchedLists } from '../features/prices/fetched-list.model.ts'
import { defineItems } from '../features/prices/item.model.ts'
import { defineQuotes } from '../features/prices/quote.model.ts'
import { defineSuppliers } from '../features/prices/supplier.model.ts'
import { defineBenchEvents } from '../features/runs/bench-event.model.ts'
import { defineDefects } from '../features/runs/defect.model.ts'
import { defineRuns } from '../features/runs/run.model.ts'
import { defineRunNumbers } from '../features/runs/run-number.model.ts'
import { defineTubs } from '../features/runs/tub.model.ts'
import { defineWeighings } from '../features/runs/weighing.model.ts'
import { defineSafetyNotes } from '../features/safety/safety-note.model.ts'
import { defineSecurityEvents } from '../features/security/security-event.model.ts'
import { defineSessions } from '../features/session/session.model.ts'
import { defineTablets } from '../features/tablets/tablet.model.ts'
import { defineBoxItems } from '../features/walk-in/box-item.model.ts'
import { defineLots } from '../features/walk-in/lot.model.ts'
import { defineLotMoves } from '../features/walk-in/lot-move.model.ts'
import { defineCutTotals } from '../features/yield-book/cut-total.model.ts'
import { defineOutputTotals } from '../features/yield-book/output-total.model.ts'
import { defineRunOutputs } from '../features/yield-book/run-output.model.ts'
import { defineWaysOfCutting } from '../features/yield-book/way-of-cutting.model.ts'
import { defineLeases } from './lease.model.ts'
import { defineMigrations } from './migration.model.ts'
import { defineRepeats } from './repeat.model.ts'

export type Models = ReturnType<typeof defineModels>

/** Every table of Fleam, and what belongs to what. A relation is named as its column is, less the `Id`. */
export function defineModels(sequelize: Sequelize) {
  const models = {
    kitchens: defineKitchens(sequelize),
    auditTrail: defineAuditTrail(sequelize),
    people: definePeople(sequelize),
    sessions: defineSessions(sequelize),
    tablets: defineTablets(sequelize),
    invitations: defineInvitations(sequelize),
    securityEvents: defineSecurityEvents(sequelize),
    suppliers: defineSuppliers(sequelize),
    items: defineItems(sequelize),
    quotes: defineQuotes(sequelize),
    fetchedLists: defineFetchedLists(sequelize),
    cutSheets: defineCutSheets(sequelize),
    cutSheetVersions: defineCutSheetVersions(sequelize),
    runs: defineRuns(sequelize),
    runNumbers: defineRunNumbers(sequelize),
    tubs: defineTubs(sequelize),
    weighings: defineWeighings(sequelize),
    defects: defineDefects(sequelize),
    benchEvents: defineBenchEvents(sequelize),
    days: defineDays(sequelize),
    orders: defineOrders(sequelize),
    dishNeeds: defineDishNeeds(sequelize),
    measuredProfiles: defineMeasuredProfiles(sequelize),
    comparisons: defineComparisons(sequelize),
    runOutputs: defineRunOutputs(sequelize),
    cutTotals: defineCutTotals(sequelize),
    outputTotals: defineOutputTotals(sequelize),
    waysOfCutting: defineWaysOfCutting(sequelize),
    boxItems: defineBoxItems(sequelize),
    claims: defineClaims(sequelize),
    lots: defineLots(sequelize),
    lotMoves: defineLotMoves(sequelize),
    followOns: defineFollowOns(sequelize),
    followOnSheets: defineFollowOnSheets(sequelize),
    labelPrints: defineLabelPrints(sequelize),
    safetyNotes: defineSafetyNotes(sequelize),
    pictures: definePictures(sequelize),
    daySchedules: defineDaySchedules(sequelize),
    dayTicks: defineDayTicks(sequelize),
    guesses: defineGuesses(sequelize),
    practiceAnswers: definePracticeAnswers(sequelize),
    cuttingAttempts: defineCuttingAttempts(sequelize),
    studentGroups: defineStudentGroups(sequelize),
    groupMembers: defineGroupMembers(sequelize),
    exercises: defineExercises(sequelize),
    exerciseRuns: defineExerciseRuns(sequelize),
    marks: defineMarks(sequelize),
    repeats: defineRepeats(sequelize),
    leases: defineLeases(sequelize),
    migrations: defineMigrations(sequelize),
  }
  const { kitchens, people, suppliers, items, quotes, cutSheets, cutSheetVersions, runs } = models
  const { auditTrail, sessions, tablets, securityEvents, weighings, defects, benchEvents, measuredProfiles, comparisons } = models
  const { lots, lotMoves, followOns, labelPrints, safetyNotes, claims, pictures, days, orders, daySchedules, dayTicks } = models
  const madeBySomeone: ModelStatic<Model>[] = [
    auditTrail,
    sessions,
    tablets,
    models.invitations,
    securityEvents,
    cutSheetVersions,
    weighings,
    defects,
    benchEvents,
    measuredProfiles,
    comparisons,
    lots,
    lotMoves,
    followOns,
    labelPrints,
    safetyNotes,
    claims,
    pictures,
    days,
    daySchedules,
    dayTicks,
    orders,
  ]
  for (const made of madeBySomeone) made.belongsTo(people, { as: 'person', foreignKey: 'personId' })
  sessions.belongsTo(kitchens, { as: 'kitchen', foreignKey: 'kitchenId' })
  sessions.belongsTo(tablets, { as: 'tablet', foreignKey: 'tabletId' })
  tablets.belongsTo(kitchens, { as: 'kitchen', foreignKey: 'kitchenId' })
  people.belongsTo(kitchens, { as: 'kitchen', foreignKey: 'kitchenId' })
  quotes.belongsTo(items, { as: 'item', foreignKey: 'itemId' })
  quotes.belongsTo(suppliers, { as: 'supplier', foreignKey: 'supplierId' })
  cutSheets.belongsTo(cutSheetVersions, { as: 'newestVersion', foreignKey: 'newestVersionId' })
  benchEvents.belongsTo(runs, { as: 'run', foreignKey: 'runId' })
  runs.belongsTo(items, { as: 'item', foreignKey: 'itemId' })
  runs.belongsTo(cutSheetVersions, { as: 'cutSheetVersion', foreignKey: 'cutSheetVersionId' })
  runs.belongsTo(suppliers, { as: 'supplier', foreignKey: 'supplierId' })
  runs.belongsTo(people, { as: 'cook', foreignKey: 'cookId' })
  models.studentGroups.belongsTo(people, { as: 'instructor', foreignKey: 'instructorId' })
  models.groupMembers.belongsTo(people, { as: 'person', foreignKey: 'personId' })
  models.exercises.belongsTo(models.studentGroups, { as: 'group', foreignKey: 'groupId' })
  models.exerciseRuns.belongsTo(runs, { as: 'run', foreignKey: 'runId' })
  models.marks.belongsTo(people, { as: 'givenBy', foreignKey: 'givenById' })
  runs.belongsTo(people, { as: 'finishedBy', foreignKey: 'finishedById' })
  runs.belongsTo(quotes, { as: 'quote', foreignKey: 'quoteId' })
  runs.belongsTo(items, { as: 'readyCutItem', foreignKey: 'readyCutItemId' })
  runs.belongsTo(quotes, { as: 'readyCutQuote', foreignKey: 'readyCutQuoteId' })
  daySchedules.belongsTo(days, { as: 'day', foreignKey: 'dayId' })
  orders.belongsTo(suppliers, { as: 'supplier', foreignKey: 'supplierId' })
  claims.belongsTo(runs, { as: 'run', foreignKey: 'runId' })
  claims.belongsTo(people, { as: 'settledBy', foreignKey: 'settledById' })
  lots.belongsTo(runs, { as: 'run', foreignKey: 'runId' })
  lots.belongsTo(followOns, { as: 'followOn', foreignKey: 'followOnId' })
  lotMoves.belongsTo(lots, { as: 'lot', foreignKey: 'lotId' })
  return models
}

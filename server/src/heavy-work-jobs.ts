export { pairPieces } from '@fleam/core/portions/pair-pieces'
export { writeYieldTestSheet } from './features/runs/yield-test-sheet.ts'

import type { QueryInterface } from 'sequelize'

/**
 * A step forward of the schema; there are none back. Every statement can be run again, so that a step which was interrupted
 * is simply begun anew at the next start.
 */
export interface SchemaStep {
  name: string
  /** Statements in order, or what to do with the schema. */
  statements: readonly string[] | ((schema: QueryInterface) => Promise<void>)
}

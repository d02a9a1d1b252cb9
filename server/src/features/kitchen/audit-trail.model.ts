import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { kitchenColumn, moment, uuid } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** A line of the audit trail: who changed what, from what to what. */
export interface AuditRow extends Model<InferAttributes<AuditRow>, InferCreationAttributes<AuditRow>> {
  id: CreationOptional<number>
  kitchenId: string
  at: Date
  personId: string | null
  subject: string
  subjectId: string
  action: string
  before: unknown
  after: unknown
  person?: NonAttribute<PersonRow | null>
}

export const defineAuditTrail = (sequelize: Sequelize) =>
  sequelize.define<AuditRow>(
    'auditLine',
    {
      id: { type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true },
      kitchenId: kitchenColumn(),
      at: { type: moment, allowNull: false },
      personId: uuid,
      subject: { type: DataTypes.STRING(30), allowNull: false },
      subjectId: { type: uuid, allowNull: false },
      action: { type: DataTypes.STRING(30), allowNull: false },
      before: { type: DataTypes.JSON, field: 'before_json' },
      after: { type: DataTypes.JSON, field: 'after_json' },
    },
    { tableName: 'audit_trail' },
  )

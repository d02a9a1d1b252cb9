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
import type { KitchenRow } from '../kitchen/kitchen.model.ts'
import type { PersonRow } from '../people/person.model.ts'
import type { TabletRow } from '../tablets/tablet.model.ts'

/** Somebody signed in on some device; the token itself is known to the device alone. */
export interface SessionRow extends Model<InferAttributes<SessionRow>, InferCreationAttributes<SessionRow>> {
  tokenHash: string
  id: string
  kitchenId: string
  personId: string
  tabletId: string | null
  startedAt: Date
  seenAt: Date
  expiresAt: Date
  /** In another kitchen than the secret's: a mark of the secret that opened it, which ends with it. */
  homeSecret: CreationOptional<string | null>
  address: string
  /** What the browser says that it is. */
  device: string
  kitchen?: NonAttribute<KitchenRow>
  person?: NonAttribute<PersonRow>
  tablet?: NonAttribute<TabletRow | null>
}

export const defineSessions = (sequelize: Sequelize) =>
  sequelize.define<SessionRow>(
    'session',
    {
      tokenHash: { type: DataTypes.CHAR(64), primaryKey: true },
      id: { type: uuid, allowNull: false },
      kitchenId: kitchenColumn(),
      personId: { type: uuid, allowNull: false },
      tabletId: uuid,
      startedAt: { type: moment, allowNull: false },
      seenAt: { type: moment, allowNull: false },
      expiresAt: { type: moment, allowNull: false },
      homeSecret: DataTypes.CHAR(64),
      address: { type: DataTypes.STRING(64), allowNull: false },
      device: { type: DataTypes.STRING(200), allowNull: false },
    },
    { tableName: 'sessions' },
  )

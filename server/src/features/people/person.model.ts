import type { SecretKind } from '@fleam/contract/people'
import { type PersonRole, roles } from '@fleam/contract/roles'
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { countColumn, idColumn, kitchenColumn, uuid, versionColumn } from '../../db/columns.ts'
import type { KitchenRow } from '../kitchen/kitchen.model.ts'

/** A person of a kitchen. Without a `signInName` nobody can sign in as them: they came in with a file. */
export interface PersonRow extends Model<InferAttributes<PersonRow>, InferCreationAttributes<PersonRow>> {
  id: string
  kitchenId: string
  name: string
  signInName: string | null
  role: PersonRole
  secretHash: string | null
  secretKind: CreationOptional<SecretKind | null>
  /** Of who is asked for a time code beside the secret. */
  timeCodeSecret: CreationOptional<string | null>
  /** The half minute of the last code that was taken: each is taken once. */
  timeCodeStep: CreationOptional<number>
  /** What is kept of the secret address of their calendar. */
  calendarHash: CreationOptional<string | null>
  /** Who they are in the kitchen where their secret is kept, of people of several. */
  homeId: CreationOptional<string | null>
  hasDemoSecret: CreationOptional<boolean>
  active: CreationOptional<boolean>
  version: CreationOptional<number>
  kitchen?: NonAttribute<KitchenRow>
}

export const definePeople = (sequelize: Sequelize) =>
  sequelize.define<PersonRow>(
    'person',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(80), allowNull: false },
      signInName: DataTypes.STRING(60),
      role: { type: DataTypes.ENUM(...roles), allowNull: false },
      secretHash: DataTypes.STRING(200),
      secretKind: DataTypes.ENUM('pin', 'passphrase'),
      timeCodeSecret: DataTypes.STRING(100),
      timeCodeStep: countColumn(),
      calendarHash: DataTypes.CHAR(64),
      homeId: uuid,
      hasDemoSecret: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      active: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      version: versionColumn(),
    },
    { tableName: 'people', version: true },
  )

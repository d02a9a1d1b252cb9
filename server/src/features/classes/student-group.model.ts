import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize'
import { idColumn, kitchenColumn, uuid, versionColumn } from '../../db/columns.ts'
import type { PersonRow } from '../people/person.model.ts'

/** Students who are taught together. */
export interface StudentGroupRow extends Model<InferAttributes<StudentGroupRow>, InferCreationAttributes<StudentGroupRow>> {
  id: string
  kitchenId: string
  name: string
  instructorId: string
  version: CreationOptional<number>
  instructor?: NonAttribute<PersonRow>
}

export const defineStudentGroups = (sequelize: Sequelize) =>
  sequelize.define<StudentGroupRow>(
    'studentGroup',
    {
      id: idColumn(),
      kitchenId: kitchenColumn(),
      name: { type: DataTypes.STRING(60), allowNull: false },
      instructorId: { type: uuid, allowNull: false },
      version: versionColumn(),
    },
    { tableName: 'student_groups', version: true },
  )

/** Who is in a group. */
export interface GroupMemberRow extends Model<InferAttributes<GroupMemberRow>, InferCreationAttributes<GroupMemberRow>> {
  groupId: string
  personId: string
  kitchenId: string
  person?: NonAttribute<PersonRow>
}

export const defineGroupMembers = (sequelize: Sequelize) =>
  sequelize.define<GroupMemberRow>(
    'groupMember',
    { groupId: { type: uuid, primaryKey: true }, personId: { type: uuid, primaryKey: true }, kitchenId: kitchenColumn() },
    { tableName: 'group_members' },
  )

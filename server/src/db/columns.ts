import { DataTypes } from 'sequelize'

/** UUIDs as text, in a column that compares byte by byte. */
export const uuid = DataTypes.CHAR(36)
/** A moment to the millisecond, UTC. */
export const moment = DataTypes.DATE(3)

// Sequelize writes into what describes a column: each column has a description of its own.
export const idColumn = () => ({ type: uuid, primaryKey: true })
export const kitchenColumn = () => ({ type: uuid, allowNull: false })
/** Counted up with every change of the row; a change of an older one is refused. */
export const versionColumn = () => ({ type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 })
/** The database's numbering of rows in the order they were stored; the row is known by the client's id. */
export const sequenceColumn = () => ({ type: DataTypes.BIGINT, autoIncrement: true, primaryKey: true })
/** A running total. */
export const totalColumn = () => ({ type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 })
export const countColumn = () => ({ type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 })

import { DataTypes } from 'sequelize';

/* Columns of models, by what they hold. */
// Sequelize writes into the attributes it is given: each column gets an object of its own.
export const id = () => ({ type: DataTypes.UUID, primaryKey: true });
export const uuid = () => ({ type: DataTypes.UUID, allowNull: false });
export const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
export const doubleOrNull = () => ({ type: DataTypes.DOUBLE, allowNull: true });
export const int = () => ({ type: DataTypes.INTEGER, allowNull: false });
export const bigint = () => ({ type: DataTypes.BIGINT, allowNull: false });
export const json = () => ({ type: DataTypes.JSON, allowNull: false });
export const flag = () => ({ type: DataTypes.BOOLEAN, allowNull: false });

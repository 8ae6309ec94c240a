export { addChartField, chartFields, renameChartField, retireChartField } from './chart-fields';
export { resetWording, saveWording, wordings, type WordingLine } from './wordings';
export { doorPolicy, saveDoorPolicy } from './door-policy';

export { addChartField, chartFields, renameChartField, retireChartField } from './chart-fields';

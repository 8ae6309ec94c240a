export { addChartField, chartFields, renameChartField, retireChartField } from "./chart-fields";
export { resetWording, saveWording, wordings, type WordingLine } from "./wordings";
export { addLeaflet, clientLeaflet, leaflets, openLeaflet, retireLeaflet, type LeafletLine } from "./leaflets";
export { practiceDefaults, savePracticeDefaults, type PracticeDefaults } from "./defaults";
export { pagePolicy, savePagePolicy } from "./pages";
export { practiceFacts, savePracticeFacts, type PracticeFacts } from "./facts";
export { practiceLogo, removeLogo, saveLogo, type LogoError } from "./logo";
export { emptyPractice, setUp, setUpCodeWords } from "./set-up";
export { doorPolicy, saveDoorPolicy } from "./door-policy";

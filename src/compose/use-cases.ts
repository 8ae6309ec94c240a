/** Every use case the app may call, in one list. */
export { confirmSecondFactor, endSecondFactor, secondFactorState, signIn, signOut, startSecondFactor, verifySecondFactor } from '../usecases/sign-in';
export { addClient, addContact, addRelation, changeContact, changeRelation, daySheet, endRelation, people, reachView } from '../usecases/book';
export { askOnceMore, extend, giveLink, mailingOptions, mailingView, nudge, packetJourney, postMessage, previewLetter, postRoom, reissueLink, sendOptions, sendPacket, sendTest, simulatePost, startMailing, stopMailing, tryAgain, unlock, withdraw, writeNext } from '../usecases/send';
export { checkCode, checkDetails, giveBack, handOver, openFreely, openKnown, openLink, readOutCode, sendCode } from '../usecases/verify';
export { addFile, chooseLanguage, clientPaper, clientSheet, fillView, news, returnPacket, saveAnswers } from '../usecases/answer';
export { signPart } from '../usecases/sign';
export { exportPart, filledSheet, openFile, returns, returnView, sendBack } from '../usecases/review';
export { chartView, post, reconcileView, reverse } from '../usecases/reconcile';
export { draft, noteView, saveNote } from '../usecases/note';
export { blankPaper, bringStarters, composerView, dropDraft, duplicate, exportQuestionnaire, exportXliff, handOff, importQuestionnaire, library, librarySheet, newQuestionnaire, newWorksheet, putInUse, questionBank, questionnaireView, rehearsal, removeDraft, retire, saveDraft, shareQuestionnaire, putStanding, removeStanding, standingPackets } from '../usecases/author';
export { addChartField, addLeaflet, chartFields, clientLeaflet, doorPolicy, leaflets, openLeaflet, pagePolicy, retireLeaflet, saveDoorPolicy, savePagePolicy, renameChartField, resetWording, retireChartField, saveWording, wordings } from '../usecases/office';
export { journalView } from '../usecases/journal';

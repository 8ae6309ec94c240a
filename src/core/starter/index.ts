import type { Questionnaire } from '../questionnaire';
import { measures } from './measures';
import { outlines } from './outlines';

/** What every practice can begin with, besides the files in `demo/questionnaires`. */
export const starterLibrary: readonly Questionnaire[] = [...outlines, ...measures];
export { readOutline, type OutlineHead } from './outline';

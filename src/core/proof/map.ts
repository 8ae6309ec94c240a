import {
  allItems,
  childrenOf,
  isGroup,
  isQuestion,
  isSection,
  place,
  questionsByKey,
  shownWhenWords,
  type Answers,
  type Item,
  type Placed,
  type Questionnaire,
} from "../questionnaire";

/** One line of the map: a section, group, question or text, in reading order. */
export interface MapNode {
  readonly linkId: string;
  readonly text: string;
  readonly kind: "section" | "group" | "question" | "text" | "score";
  /** How many questions deep it hangs: 0 is always met, 1 hangs on one that is, and so on. */
  readonly level: number;
  /** The group it stands in. */
  readonly inside: string | undefined;
  /** Questions its own condition names, as far as they are there. */
  readonly sources: readonly string[];
  readonly when: string | undefined;
}

/** A questionnaire as a flow. A circular condition ends at the line that was met first. */
export function mapOf(questionnaire: Questionnaire): MapNode[] {
  const words = questionsByKey(questionnaire);
  const items = new Map(allItems(questionnaire).map((i) => [i.linkId, i]));
  const sourcesOf = (item: Item): string[] =>
    [...new Set((item.shownWhen?.conditions ?? []).map((c) => c.question))].filter(
      (id) => items.has(id) && id !== item.linkId,
    );
  const levels = new Map<string, number>();
  const levelOf = (item: Item): number => {
    const known = levels.get(item.linkId);
    if (known !== undefined) return known;
    levels.set(item.linkId, 0);
    const sources = sourcesOf(item);
    const level = sources.length === 0 ? 0 : 1 + Math.max(...sources.map((id) => levelOf(items.get(id)!)));
    levels.set(item.linkId, level);
    return level;
  };
  const out: MapNode[] = [];
  const visit = (item: Item, inside: string | undefined, around: number): void => {
    // What stands in a conditional group hangs where the group does.
    const level = Math.max(around, levelOf(item));
    const kindOfNode = () => {
      if (isGroup(item)) {
        if (isSection(item) && inside === undefined) return "section";
        return "group";
      }
      if (!isQuestion(item)) return "text";
      if (item.score) return "score";
      return "question";
    };
    const kind = kindOfNode();
    out.push({
      linkId: item.linkId,
      text: item.text,
      kind,
      level,
      inside,
      sources: sourcesOf(item),
      when: shownWhenWords(item, words),
    });
    childrenOf(item).forEach((child) => visit(child, isGroup(item) ? item.linkId : inside, level));
  };
  questionnaire.items.forEach((item) => visit(item, undefined, 0));
  return out;
}

/** The lines that somebody with these answers is shown. */
export function litBy(questionnaire: Questionnaire, answers: Answers): Set<string> {
  const lit = new Set<string>();
  const visit = (placed: Placed): void => {
    if (!placed.shown) return;
    lit.add(placed.item.linkId);
    placed.children.forEach(visit);
  };
  place(questionnaire, answers).forEach(visit);
  return lit;
}

/**
 * The lines left when some are folded: a folded group hides what stands in it, a folded question what is shown only
 * because of it.
 */
export function unfolded(nodes: readonly MapNode[], folded: ReadonlySet<string>): MapNode[] {
  const hidden = new Set<string>();
  return nodes.filter((node) => {
    const shut = (id: string): boolean => folded.has(id) || hidden.has(id);
    const gone =
      (node.inside !== undefined && shut(node.inside)) || (node.sources.length > 0 && node.sources.every(shut));
    if (gone) hidden.add(node.linkId);
    return !gone;
  });
}

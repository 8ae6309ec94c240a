import { isValidElement, type ReactElement, type ReactNode } from "react";
import { Page } from "@react-pdf/renderer";
import { Words } from "./paper-words";

/** Every word of one page as it is given to the PDF library; a page may go on over several sheets. */
export interface DrawnPage {
  /** In reading order, each drawn once. */
  readonly body: string[];
  /** Drawn on every sheet, after what of the body stands there. */
  readonly edges: string[];
}

/** The words of a document before it is drawn. Its parts are functions of what they are given, so they can be asked. */
export function wordsDrawn(document: ReactNode): DrawnPage[] {
  const pages: DrawnPage[] = [];
  const visit = (node: ReactNode, isEdge: boolean): void => {
    if (Array.isArray(node)) for (const one of node as readonly ReactNode[]) visit(one, isEdge);
    if (!isValidElement(node)) return;
    const { type, props } = node as ReactElement<{ readonly children?: ReactNode; readonly fixed?: boolean }>;
    if ((type as unknown) === Page) pages.push({ body: [], edges: [] });
    if (type === Words) pages.at(-1)?.[isEdge ? "edges" : "body"].push(String(props.children));
    else if (typeof type === "function") visit((type as (given: object) => ReactNode)(props), isEdge);
    else visit(props.children, isEdge || props.fixed === true);
  };
  visit(document, false);
  return pages;
}

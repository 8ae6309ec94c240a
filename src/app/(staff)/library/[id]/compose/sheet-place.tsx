"use client";
import { useEffect, useRef, useState } from "react";
import { useMove } from "react-aria/useMove";
import styled from "styled-components";
import type { PageViewport, PDFDocumentProxy } from "pdfjs-dist";
import type { SheetBox } from "@/core/questionnaire";
import { Fields, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";

export interface SheetPlaceProps {
  /** Where the PDF is. */
  readonly url: string;
  readonly box: SheetBox;
  readonly onChange: (box: SheetBox, mark?: string) => void;
}
const pointsPerMm = 72 / 25.4;
const shownWidth = 440;
const leastSize = 12;

/** Where on a page of the PDF a signature stands: moved with a pointer or the arrow keys, or set by its measures. */
export default function SheetPlace({ url, box, onChange }: SheetPlaceProps) {
  const { pages, viewport, failed, canvas } = usePage(url, box.page);
  // A key held down moves it on before the page has drawn the last step.
  const latest = useRef(box);
  useEffect(() => {
    latest.current = box;
  }, [box]);
  const set = (change: Partial<SheetBox>, mark?: string): void => {
    latest.current = within({ ...latest.current, ...change }, viewport, pages);
    onChange(latest.current, mark);
  };
  const { moveProps } = useMove({
    onMove({ deltaX, deltaY, pointerType }) {
      if (!viewport) return;
      // An arrow key goes on by a millimetre.
      const step = pointerType === "keyboard" ? pointsPerMm : 1 / viewport.scale;
      const [across, up] = turned(viewport, deltaX * step, -deltaY * step);
      const { left, bottom } = latest.current;
      set({ left: left + across, bottom: bottom + up }, `moved ${box.page}`);
    },
  });
  const measure = (label: string, side: Exclude<keyof SheetBox, "page">) => (
    <TextField
      key={side}
      label={label}
      inputMode="numeric"
      value={String(Math.round(box[side] / pointsPerMm))}
      onChange={(typed) => {
        const mm = /^\d{1,4}$/.test(typed.trim()) ? Number(typed.trim()) : 0;
        set({ [side]: mm * pointsPerMm }, `${side} ${box.page}`);
      }}
    />
  );
  return (
    <Stack $gap="0.6rem">
      <Fields $least="6.5rem">
        <TextField
          label={pages ? `Page, of ${pages}` : "Page"}
          inputMode="numeric"
          value={String(box.page)}
          onChange={(typed) => set({ page: Number(typed.trim()) || 1 }, "page")}
        />
        {measure("From the left, mm", "left")}
        {measure("From the foot, mm", "bottom")}
        {measure("Width, mm", "width")}
        {measure("Height, mm", "height")}
      </Fields>
      {failed ? (
        <Soft>The page cannot be shown here. The measures hold all the same.</Soft>
      ) : (
        <Sheet>
          <canvas ref={canvas} aria-hidden="true" />
          {viewport && (
            <Spot
              {...moveProps}
              tabIndex={0}
              role="application"
              aria-roledescription="place on the page"
              aria-label={`Signature, ${Math.round(box.left / pointsPerMm)} mm from the left and ${Math.round(box.bottom / pointsPerMm)} mm from the foot of page ${box.page}. The arrow keys move it.`}
              style={shownAt(viewport, box)}
            >
              signs here
            </Spot>
          )}
        </Sheet>
      )}
    </Stack>
  );
}

/** The page, drawn into a canvas. */
function usePage(url: string, number: number) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [pdf, setPdf] = useState<PDFDocumentProxy>();
  const [viewport, setViewport] = useState<PageViewport>();
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    let left = false;
    let port: Worker | undefined;
    const load = async (): Promise<void> => {
      const { getDocument, PDFWorker } = await import("pdfjs-dist");
      if (left) return;
      port = new Worker(new URL("./sheet.worker.ts", import.meta.url), { type: "module" });
      const loaded = await getDocument({ url, worker: new PDFWorker({ port: port as never }), isEvalSupported: false })
        .promise;
      if (!left) setPdf(loaded);
    };
    load().catch(() => setFailed(true));
    return () => {
      left = true;
      port?.terminate();
    };
  }, [url]);
  useEffect(() => {
    if (!pdf) return undefined;
    let left = false;
    const draw = async (): Promise<void> => {
      const page = await pdf.getPage(Math.min(Math.max(1, number), pdf.numPages));
      const natural = page.getViewport({ scale: 1 });
      const fitted = page.getViewport({ scale: shownWidth / natural.width });
      const context = canvas.current?.getContext("2d");
      if (left || !context) return;
      context.canvas.width = fitted.width;
      context.canvas.height = fitted.height;
      await page.render({ canvasContext: context, viewport: fitted }).promise;
      if (!left) setViewport(fitted);
    };
    draw().catch(() => setFailed(true));
    return () => {
      left = true;
    };
  }, [pdf, number]);
  return { pages: pdf?.numPages, viewport, failed, canvas };
}
/** A way across the page as it is shown, as the page counts it: the page may lie on its side. */
function turned({ rotation }: PageViewport, right: number, up: number): readonly [number, number] {
  if (rotation === 90) return [-up, right];
  if (rotation === 180) return [-right, -up];
  if (rotation === 270) return [up, -right];
  return [right, up];
}
function within(box: SheetBox, viewport: PageViewport | undefined, pages: number | undefined): SheetBox {
  const [west, south, east, north] = viewport?.viewBox ?? [0, 0, 14_400, 14_400];
  const width = Math.min(Math.max(box.width, leastSize), east! - west!);
  const height = Math.min(Math.max(box.height, leastSize), north! - south!);
  const between = (value: number, least: number, most: number): number => Math.min(Math.max(value, least), most);
  const round = (value: number): number => Math.round(value * 1000) / 1000;
  return {
    page: between(Math.trunc(box.page), 1, pages ?? 999),
    left: round(between(box.left, west!, east! - width)),
    bottom: round(between(box.bottom, south!, north! - height)),
    width: round(width),
    height: round(height),
  };
}
function shownAt(viewport: PageViewport, { left, bottom, width, height }: SheetBox): React.CSSProperties {
  const [x1, y1, x2, y2] = viewport.convertToViewportRectangle([left, bottom, left + width, bottom + height]) as [
    number,
    number,
    number,
    number,
  ];
  return {
    left: Math.min(x1, x2),
    top: Math.min(y1, y2),
    width: Math.abs(x2 - x1),
    height: Math.abs(y2 - y1),
  };
}
// The page is a page in any direction of writing: it is laid out from its own left.
const Sheet = styled.div.attrs({ dir: "ltr" })`
  position: relative;
  width: fit-content;
  max-width: 100%;
  overflow: auto;
  border: 1px solid var(--rule-strong);
  & > canvas {
    display: block;
    background: #fff;
  }
`;
const Spot = styled.div`
  position: absolute;
  display: grid;
  place-items: center;
  overflow: hidden;
  /* On paper, which is white by night, too. */
  border: 2px solid #6a3459;
  background: rgb(106 52 89 / 0.14);
  color: #6a3459;
  font-size: 0.75rem;
  cursor: move;
  touch-action: none;
  &:focus-visible {
    outline: 3px solid #6a3459;
    outline-offset: 2px;
  }
`;

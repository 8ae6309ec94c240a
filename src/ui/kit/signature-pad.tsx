"use client";
import { useRef } from "react";
import styled from "styled-components";
import { withoutLastStroke } from "@/core/signing";
import { Button } from "./button";
import { Cluster } from "./page";

const longestPath = 58_000;
/** A browser may put several moves into one event; a fast stroke is made of all of them. */
function everyMove(event: PointerEvent): readonly PointerEvent[] {
  const all = typeof event.getCoalescedEvents === "function" ? event.getCoalescedEvents() : [];
  return all.length > 0 ? all : [event];
}
export interface SignaturePadProps {
  readonly label: string;
  readonly again: string;
  readonly undo: string;
  readonly path: string;
  readonly onChange: (path: string | ((before: string) => string)) => void;
}
/** Draws into a 600 x 200 field; the path is what the core checks with isDrawnPath. */
export function SignaturePad({ label, again, undo, path, onChange }: SignaturePadProps) {
  const svg = useRef<SVGSVGElement>(null);
  const drawing = useRef(false);
  /** Adds to what is there by then: several moves may come before the next drawing. */
  const draw = (sign: "M" | "L", events: readonly Pick<PointerEvent, "clientX" | "clientY">[]): void => {
    const box = svg.current!.getBoundingClientRect();
    const scale = (v: number, from: number, size: number, to: number): string =>
      String(Math.round(Math.max(0, Math.min(to, ((v - from) / size) * to))));
    const points = events.map(
      (e) => `${scale(e.clientX, box.left, box.width, 600)} ${scale(e.clientY, box.top, box.height, 200)}`,
    );
    onChange((before) =>
      points.reduce((path, point) => {
        if (path.length > longestPath || (sign === "L" && path.endsWith(`${point} `))) return path;
        return `${path}${sign}${point} `;
      }, before),
    );
  };
  return (
    <div>
      <Field
        ref={svg}
        viewBox="0 0 600 200"
        role="img"
        aria-label={label}
        data-testid="signature-pad"
        onPointerDown={(e) => {
          drawing.current = true;
          e.currentTarget.setPointerCapture(e.pointerId);
          draw("M", [e]);
        }}
        onPointerMove={(e) => {
          if (drawing.current) draw("L", everyMove(e.nativeEvent));
        }}
        onPointerUp={() => {
          drawing.current = false;
        }}
        onPointerCancel={() => {
          drawing.current = false;
        }}
      >
        <path d="M30 155H570" stroke="var(--rule)" strokeWidth="2" />
        {path === "" ? (
          <text x="300" y="110" textAnchor="middle" fill="var(--soft)" fontSize="26">
            {label}
          </text>
        ) : null}
        <path d={path} fill="none" stroke="currentColor" strokeWidth="4" strokeLinecap="round" strokeLinejoin="round" />
      </Field>
      <Cluster>
        <Button weight="quiet" isDisabled={path === ""} onPress={() => onChange(withoutLastStroke)}>
          {undo}
        </Button>
        <Button weight="quiet" isDisabled={path === ""} onPress={() => onChange("")}>
          {again}
        </Button>
      </Cluster>
    </div>
  );
}
const Field = styled.svg`
  display: block;
  width: 100%;
  aspect-ratio: 3;
  background: var(--leaf);
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  touch-action: none;
  -webkit-user-select: none;
  user-select: none;
  cursor: crosshair;
`;

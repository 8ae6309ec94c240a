"use client";
import { useRef, useState } from "react";
import styled from "styled-components";
import { signSchema } from "@/core/forms";
import { isDrawnPath } from "@/core/signing";
import type { FillWords } from "@/i18n/translator";
import { Button } from "@/ui/kit/button";
import { RadioGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Stack } from "@/ui/kit/page";

export interface SignFormProps {
  readonly words: FillWords;
  /** What is agreed to by signing. */
  readonly intent: string;
  readonly name: string;
  readonly busy: boolean;
  readonly failed: string | undefined;
  readonly onSign: (mark: { readonly name: string; readonly path: string }) => void;
}
/** Typed or drawn; typing is always there, so that nobody needs a pointer to sign. */
export function SignForm({ words, intent, name: startName, busy, failed, onSign }: SignFormProps) {
  const [name, setName] = useState(startName);
  const [how, setHow] = useState("typed");
  const [path, setPath] = useState("");
  const [problem, setProblem] = useState<{ readonly name?: string; readonly drawing?: string }>({});
  const sign = (): void => {
    const drawing = how === "drawn" ? path.trim() : "";
    if (!signSchema.isValidSync({ name, path: drawing })) {
      setProblem({ name: words("signName") });
      return;
    }
    if (how === "drawn" && !isDrawnPath(drawing)) {
      setProblem({ drawing: words("notDrawn") });
      return;
    }
    setProblem({});
    onSign({ name, path: drawing });
  };
  return (
    <Stack $gap="1.4rem">
      <TextField
        label={words("signName")}
        value={name}
        onChange={setName}
        autoComplete="name"
        problem={problem.name}
        required
      />
      <RadioGroup
        label={words("signHow")}
        value={how}
        onChange={setHow}
        inline
        options={[
          { value: "typed", label: words("signType") },
          { value: "drawn", label: words("signDraw") },
        ]}
      />
      {how === "drawn" ? (
        <Pad label={words("drawHere")} again={words("drawAgain")} path={path} onChange={setPath} />
      ) : (
        <Typed aria-hidden="true">{name}</Typed>
      )}
      {problem.drawing && <Notice tone="problem">{problem.drawing}</Notice>}
      <p dir="auto">{intent}</p>
      {failed && <Notice tone="problem">{failed}</Notice>}
      <div>
        <Button weight="primary" onPress={sign} busy={busy}>
          {words("sign")}
        </Button>
      </div>
    </Stack>
  );
}

const longestPath = 58_000;
/** A browser may put several moves into one event; a fast stroke is made of all of them. */
function everyMove(event: PointerEvent): readonly PointerEvent[] {
  const all = typeof event.getCoalescedEvents === "function" ? event.getCoalescedEvents() : [];
  return all.length > 0 ? all : [event];
}
/** Draws into a 600 x 200 field; the path is what the core checks with isDrawnPath. */
function Pad({
  label,
  again,
  path,
  onChange,
}: {
  readonly label: string;
  readonly again: string;
  readonly path: string;
  readonly onChange: (path: string | ((before: string) => string)) => void;
}) {
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
        <Button weight="quiet" onPress={() => onChange("")}>
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
const Typed = styled.div`
  font: italic 500 1.8rem/1.4 var(--serif);
  min-height: 3rem;
  border-block-end: 2px solid var(--rule);
  overflow-wrap: anywhere;
`;

"use client";
import { useEffect, useMemo, useRef } from "react";
import { Button } from "@/ui/kit/button";

export interface PressProps {
  readonly label: string;
  readonly press: () => void;
  readonly primary?: boolean;
}
/** A button that an answer does not draw anew: it does what is right when it is pressed. */
export function Press({ label, press, primary = false }: PressProps) {
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  return useMemo(
    () => (
      <Button {...(primary ? { weight: "primary" as const } : {})} onPress={() => latest.current()}>
        {label}
      </Button>
    ),
    [label, primary],
  );
}

"use client";
import { Link } from "@/ui/kit/link";
import { MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { StateWords } from "@/ui/kit/state-mark";
import { ActionForm } from "@/ui/kit/form";
import type { FirstStep } from "@/usecases/scheduling";
import { testClientAction, tryLetterAction } from "./actions";

const words: Readonly<
  Record<FirstStep["step"], { readonly does: string; readonly href?: string; readonly why: string }>
> = {
  "visit-types": {
    does: "Kinds of visit",
    href: "/office/visit-types",
    why: "What people come for, how long it takes, and where.",
  },
  questionnaires: {
    does: "Questionnaires",
    href: "/library",
    why: "Bring the starters in and put in use what fits your work.",
  },
  door: { does: "Door check", href: "/office/door", why: "How clients show that it is them." },
  colleagues: { does: "Colleagues", href: "/office/staff", why: "Each with an account of their own. Or nobody yet." },
  letter: { does: "A letter to yourself", why: "Shows that letters leave this practice and arrive." },
  "test-client": {
    does: "A test client",
    why: "Made up, to try things on: their letters come to you, and they stand in no count.",
  },
  visit: { does: "A first visit", href: "/visits/new", why: "With it a client; then questionnaires go out." },
};
/** What a new practice does first, each ticked off by what is really there. */
export function FirstSteps({ steps }: { readonly steps: readonly FirstStep[] }) {
  return (
    <section aria-label="First steps">
      <SectionTitle>First steps</SectionTitle>
      {steps.map(({ step, done }) => {
        const { does, href, why } = words[step];
        return (
          <MarginRow
            key={step}
            margin={<StateWords mark={done ? "settled" : "ready"} words={done ? "Done" : "To do"} />}
          >
            <Stack $gap="0.3rem">
              <span>
                <strong>{href ? <Link href={href}>{does}</Link> : does}</strong> <Soft>{why}</Soft>
              </span>
              {step === "letter" && <ActionForm action={tryLetterAction} submit="Send me a letter" weight="quiet" />}
              {step === "test-client" && (
                <ActionForm
                  action={testClientAction}
                  submit={done ? "Send to the test client" : "Add the test client"}
                  weight="quiet"
                />
              )}
            </Stack>
          </MarginRow>
        );
      })}
    </section>
  );
}

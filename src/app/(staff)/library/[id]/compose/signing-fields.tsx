"use client";
import {
  isQuestion,
  signatureWays,
  signers,
  type Display,
  type Question,
  type SheetBox,
  type Signer,
  type SignerSource,
  type SigningRule,
} from "@/core/questionnaire";
import { byNeed } from "@/ui/kit/by-need";
import { Checkbox, CheckboxGroup } from "@/ui/kit/choice-fields";
import { Fold } from "@/ui/kit/ledger";
import { Fields } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { signerWords, wayWords } from "../../../signer-words";
import type { Change } from "./question-fields";

export interface SigningFieldsProps {
  readonly item: Display;
  /** Questions before it, whose answers may name who signs. */
  readonly earlier: readonly Question[];
  /** Every place there is. */
  readonly places: readonly Pick<Display, "linkId" | "text">[];
  /** Where the questionnaire's PDF is, if it has one. */
  readonly sheetUrl: string | undefined;
  readonly onChange: Change;
}
/** Loaded where somebody marks a place on a PDF. */
const SheetPlace = byNeed(async () => (await import("./sheet-place")).default);
/** On the foot of the first page, where papers are mostly signed. */
const firstBox: SheetBox = { page: 1, left: 60, bottom: 60, width: 180, height: 48 };
/** Who signs at a place, when it is asked for, after whom and how. */
export function SigningFields({ item, earlier, places, sheetUrl, onChange }: SigningFieldsProps) {
  const rule = item.signing ?? {};
  const { linkId } = item;
  const set = (change: (now: SigningRule) => SigningRule, mark?: string): void =>
    onChange((now) => {
      const { signing: before, ...rest } = now as Display;
      const next = change(before ?? {});
      return Object.keys(next).length > 0 ? { ...rest, signing: next } : rest;
    }, mark);
  const put = <K extends keyof SigningRule>(key: K, value: SigningRule[K] | undefined, mark?: string): void =>
    set(({ [key]: _, ...rest }) => (value === undefined ? rest : { ...rest, [key]: value }) as SigningRule, mark);
  const years = (typed: string): number | undefined =>
    /^\d{1,3}$/.test(typed.trim()) ? Number(typed.trim()) : undefined;
  const age = (which: "from" | "below", typed: string): void => {
    const { [which]: _, ...others } = rule.ages ?? {};
    const value = years(typed);
    const next = value === undefined ? others : { ...others, [which]: value };
    put("ages", Object.keys(next).length > 0 ? next : undefined, `${which} ${linkId}`);
  };
  const others = places.filter((place) => place.linkId !== linkId);
  const away = item.signer !== undefined && item.signer !== "client" && item.signer !== "practitioner";
  return (
    <>
      <Fields $least="12rem">
        <Pick
          small
          label="Who signs here"
          value={item.signer ?? "anyone"}
          options={[
            { value: "anyone", label: "whoever fills it in" },
            ...signers.map((one) => ({ value: one, label: signerWords[one] })),
          ]}
          onChange={(value) =>
            onChange((now) => {
              const { signer: _signer, ...rest } = now as Display;
              return value === "anyone" ? rest : { ...rest, signer: value as Signer };
            })
          }
        />
        {item.signer === "named" && (
          <TextField
            label="What they are"
            help="They read every answer of this questionnaire before they sign."
            placeholder="Employer"
            value={rule.title ?? ""}
            onChange={(title) => put("title", title === "" ? undefined : title, `title ${linkId}`)}
          />
        )}
        {others.length > 0 && (
          <Pick
            small
            label="Signs after"
            value={rule.after ?? ""}
            placeholder="the place above"
            options={[
              { value: "", label: "the place above" },
              ...others.map((place) => ({ value: place.linkId, label: place.text || "a place without words" })),
            ]}
            onChange={(after) => put("after", after === "" ? undefined : after)}
          />
        )}
      </Fields>
      {away && <Source rule={rule} earlier={earlier} onChange={(from) => put("from", from, `from ${linkId}`)} />}
      {sheetUrl !== undefined && (
        <>
          <Checkbox
            label="Stands on the PDF too"
            isSelected={rule.onSheet !== undefined}
            onChange={(on) => put("onSheet", on ? firstBox : undefined)}
          />
          {rule.onSheet && (
            <SheetPlace
              url={sheetUrl}
              box={rule.onSheet}
              onChange={(box, mark) => put("onSheet", box, mark && `${mark} ${linkId}`)}
            />
          )}
        </>
      )}
      <Fold open={rule.ages !== undefined || rule.optional === true || rule.ways !== undefined}>
        <summary>When and how</summary>
        <Fields $least="12rem">
          <TextField
            label="Client’s age from"
            inputMode="numeric"
            value={rule.ages?.from?.toString() ?? ""}
            onChange={(typed) => age("from", typed)}
          />
          <TextField
            label="Client’s age below"
            inputMode="numeric"
            value={rule.ages?.below?.toString() ?? ""}
            onChange={(typed) => age("below", typed)}
          />
        </Fields>
        <Checkbox
          label="May be left unsigned"
          isSelected={rule.optional === true}
          onChange={(on) => put("optional", on ? true : undefined)}
        />
        <CheckboxGroup
          label="Ways to sign"
          value={[...(rule.ways ?? ["typed", "drawn", "picture"])]}
          onChange={(chosen) => {
            const ways = signatureWays.filter((way) => chosen.includes(way));
            put("ways", ways.length === 0 || ways.join() === "typed,drawn,picture" ? undefined : ways);
          }}
          options={signatureWays.map((way) => ({ value: way, label: wayWords[way] }))}
        />
      </Fold>
    </>
  );
}
/** Where the name and the address of somebody come from who is not on file. */
function Source({
  rule,
  earlier,
  onChange,
}: {
  readonly rule: SigningRule;
  readonly earlier: readonly Question[];
  readonly onChange: (from: SignerSource | undefined) => void;
}) {
  const { from } = rule;
  const texts = earlier.filter((q) => isQuestion(q) && q.type === "string");
  const asked = texts.map((q) => ({ value: q.linkId, label: q.text || q.linkId }));
  const name = from?.name ?? "";
  const email = from?.email ?? "";
  return (
    <Fields $least="12rem">
      <Pick
        small
        label="Known from"
        value={from?.kind ?? ""}
        placeholder="who is on file, or chosen then"
        options={[
          { value: "", label: "who is on file, or chosen then" },
          { value: "answers", label: "two answers above" },
          { value: "fixed", label: "always the same person" },
        ]}
        onChange={(kind) =>
          onChange(kind === "" ? undefined : { kind: kind as SignerSource["kind"], name: "", email: "" })
        }
      />
      {from?.kind === "answers" && (
        <>
          <Pick
            small
            label="Their name"
            value={name}
            options={asked}
            onChange={(id) => onChange({ ...from, name: id })}
          />
          <Pick
            small
            label="Their e-mail address"
            value={email}
            options={asked}
            onChange={(id) => onChange({ ...from, email: id })}
          />
        </>
      )}
      {from?.kind === "fixed" && (
        <>
          <TextField label="Their name" value={name} onChange={(typed) => onChange({ ...from, name: typed })} />
          <TextField
            label="Their e-mail address"
            type="email"
            value={email}
            onChange={(typed) => onChange({ ...from, email: typed })}
          />
        </>
      )}
    </Fields>
  );
}

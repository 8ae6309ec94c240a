"use client";
import { useRef, useState } from "react";
import styled from "styled-components";
import { signSchema } from "@/core/forms";
import type { SignatureWay } from "@/core/questionnaire";
import { inEights } from "@/core/shared";
import { isDrawnPath, textDigest, type SignedText } from "@/core/signing";
import type { FillWords } from "@/i18n/translator";
import { Button } from "@/ui/kit/button";
import { Checkbox, RadioGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { Notice } from "@/ui/kit/notice";
import { Stack } from "@/ui/kit/page";
import { SignaturePad } from "@/ui/kit/signature-pad";

/** How somebody signed, and the digest of what they had before them. */
export interface SignatureMade {
  readonly name: string;
  readonly way: SignatureWay;
  readonly path: string;
  /** PNG in base64. */
  readonly png: string;
  readonly digest: string;
  readonly agreed: boolean;
}
export interface SignFormProps {
  readonly words: FillWords;
  /** Everything that is signed, as it stands on the page. */
  readonly read: SignedText;
  readonly ways: readonly SignatureWay[];
  readonly name: string;
  readonly busy: boolean;
  readonly failed: string | undefined;
  readonly onSign: (made: SignatureMade) => void;
  /** Cuts a signature out of a picture: PNG in base64; undefined where there is none in it. None: no pictures here. */
  readonly cut?: ((picture: File) => Promise<string | undefined>) | undefined;
}
/** Typed, drawn, by a picture or ticked, as the place allows; typing is there wherever one does not just tick. */
export function SignForm({ words, read, ways, name: startName, busy, failed, onSign, cut }: SignFormProps) {
  const offered = ways.filter((way) => way !== "picture" || cut);
  const [name, setName] = useState(startName);
  const [way, setWay] = useState<SignatureWay>(offered[0] ?? "typed");
  const [path, setPath] = useState("");
  const [png, setPng] = useState("");
  const [ticked, setTicked] = useState(false);
  const [agreed, setAgreed] = useState(false);
  const [problem, setProblem] = useState<{ readonly name?: string; readonly mark?: string; readonly agree?: string }>(
    {},
  );
  const digest = textDigest(read);
  const problemNow = (): typeof problem => {
    if (!signSchema.isValidSync({ name, path: "", way })) return { name: words("signName") };
    if (way === "drawn" && !isDrawnPath(path.trim())) return { mark: words("notDrawn") };
    if (way === "picture" && png === "") return { mark: words("noPicture") };
    if (way === "ticked" && !ticked) return { mark: words("tickFirst") };
    return agreed ? {} : { agree: words("agreeFirst") };
  };
  const sign = (): void => {
    const found = problemNow();
    setProblem(found);
    if (Object.keys(found).length > 0) return;
    const made = {
      name,
      way,
      digest,
      agreed,
      path: way === "drawn" ? path.trim() : "",
      png: way === "picture" ? png : "",
    };
    onSign(made);
  };
  const wayWords = {
    typed: words("signType"),
    drawn: words("signDraw"),
    picture: words("signPicture"),
    ticked: words("signTick"),
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
      {offered.length > 1 && (
        <RadioGroup
          label={words("signHow")}
          value={way}
          onChange={(value) => setWay(value as SignatureWay)}
          options={offered.map((one) => ({ value: one, label: wayWords[one] }))}
        />
      )}
      {way === "typed" && <Typed aria-hidden="true">{name}</Typed>}
      {way === "drawn" && (
        <SignaturePad
          label={words("drawHere")}
          again={words("drawAgain")}
          undo={words("undoStroke")}
          path={path}
          onChange={setPath}
        />
      )}
      {way === "picture" && cut && <Picture words={words} png={png} onChange={setPng} cut={cut} />}
      {way === "ticked" && <Checkbox isSelected={ticked} onChange={setTicked} label={words("tickHere", { name })} />}
      {problem.mark && <Notice tone="problem">{problem.mark}</Notice>}
      <p dir="auto">{read.intent}</p>
      <Checkbox isSelected={agreed} onChange={setAgreed} label={words("agreeScreen")} />
      {problem.agree && <Notice tone="problem">{problem.agree}</Notice>}
      {failed && <Notice tone="problem">{failed}</Notice>}
      <div>
        <Button weight="primary" onPress={sign} busy={busy}>
          {words("sign")}
        </Button>
      </div>
      <Number>
        {words("checkNumber")}: <bdi>{inEights(digest)}</bdi>
      </Number>
    </Stack>
  );
}

/** A photo of a signature; what is kept of it is shown. */
function Picture({
  words,
  png,
  onChange,
  cut,
}: {
  readonly words: FillWords;
  readonly png: string;
  readonly onChange: (png: string) => void;
  readonly cut: (picture: File) => Promise<string | undefined>;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [state, setState] = useState<"idle" | "busy" | "none">("idle");
  const take = async (picture: File | undefined): Promise<void> => {
    if (!picture) return;
    setState("busy");
    const found = await cut(picture);
    onChange(found ?? "");
    setState(found ? "idle" : "none");
  };
  return (
    <Stack $gap="0.6rem">
      <Button weight="plain" busy={state === "busy"} onPress={() => input.current?.click()}>
        {words("choosePicture")}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept="image/png,image/jpeg,image/webp"
        data-testid="signature-picture"
        onChange={(e) => void take(e.target.files?.[0])}
      />
      <Number as="p">{words("pictureHelp")}</Number>
      {state === "none" && <Notice tone="problem">{words("noPicture")}</Notice>}
      {png !== "" && <Shown src={`data:image/png;base64,${png}`} alt={words("signPicture")} />}
    </Stack>
  );
}
const Shown = styled.img`
  max-inline-size: 18rem;
  max-block-size: 6rem;
  object-fit: contain;
  object-position: left;
  background: #fff;
  border-block-end: 2px solid var(--rule);
`;
const Typed = styled.div`
  font: italic 500 1.8rem/1.4 var(--serif);
  min-height: 3rem;
  border-block-end: 2px solid var(--rule);
  overflow-wrap: anywhere;
`;
const Number = styled.p`
  color: var(--soft);
  font-size: var(--small);
  overflow-wrap: anywhere;
`;

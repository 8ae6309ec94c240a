"use client";
import { useRef, useState } from "react";
import { cutSignature } from "@/ui/fill/send-signature";
import { ActionForm } from "@/ui/kit/form";
import { Button } from "@/ui/kit/button";
import { RadioGroup } from "@/ui/kit/choice-fields";
import { Notice } from "@/ui/kit/notice";
import { Fields, Soft, Stack } from "@/ui/kit/page";
import { SignatureMark } from "@/ui/kit/signature-mark";
import { SignaturePad } from "@/ui/kit/signature-pad";
import { TextField } from "@/ui/kit/text-field";
import { keepMarkAction } from "./actions";

const ways = [
  { value: "typed", label: "Type my name" },
  { value: "drawn", label: "Draw it" },
  { value: "picture", label: "Use a picture" },
];
/** How one signs from now on: typed, drawn, or a picture whose ground is cut away. */
export function KeepMark({ name: start }: { readonly name: string }) {
  const [way, setWay] = useState("typed");
  const [name, setName] = useState(start);
  const [path, setPath] = useState("");
  const [png, setPng] = useState("");
  const [failed, setFailed] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const take = async (picture: File | undefined): Promise<void> => {
    if (!picture) return;
    const found = await cutSignature("/api/signature-picture", picture);
    setFailed(found === undefined);
    setPng(found ?? "");
  };
  return (
    <ActionForm
      action={keepMarkAction}
      submit="Keep this signature"
      weight="plain"
      hidden={{ way, path: way === "drawn" ? path.trim() : "", png: way === "picture" ? png : "" }}
    >
      <Soft as="p">It is kept sealed, and used only after you proved once more that it is you.</Soft>
      <Fields $least="14rem">
        <TextField name="name" label="Your full name" value={name} onChange={setName} autoComplete="name" />
        <TextField name="password" type="password" label="Your password" autoComplete="current-password" />
      </Fields>
      <RadioGroup label="How you sign" value={way} onChange={setWay} options={ways} inline />
      {way === "typed" && <SignatureMark mark={{ kind: "typed", name }} />}
      {way === "drawn" && (
        <div style={{ maxInlineSize: "30rem" }}>
          <SignaturePad label="Draw here" again="Start over" undo="Undo last line" path={path} onChange={setPath} />
        </div>
      )}
      {way === "picture" && (
        <Stack $gap="0.5rem">
          <div>
            <Button onPress={() => input.current?.click()}>Choose a picture</Button>
          </div>
          <input
            ref={input}
            type="file"
            hidden
            accept="image/png,image/jpeg,image/webp"
            onChange={(e) => void take(e.target.files?.[0])}
          />
          {failed && <Notice tone="problem">No signature was found in this picture.</Notice>}
          {png !== "" && <SignatureMark mark={{ kind: "picture", name, png }} />}
        </Stack>
      )}
    </ActionForm>
  );
}

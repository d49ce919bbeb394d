import { type BuildSheet, buildRoutes } from "@yosegi/contract";
import { mayBuild } from "@yosegi/core";
import { type ReactNode, useState } from "react";
import { useCommand } from "../api/index.ts";
import { Button, Dialog, MenuButton, Notice, sayDone } from "../ui/index.ts";
import { PartsForm } from "./partsform.tsx";
import { PlanForm } from "./planform.tsx";
import {
  CancelForm,
  CopyForm,
  FeeForm,
  JoinForm,
  LinkForm,
  ReturnForm,
  SplitForm,
  type StepProps,
} from "./stepdialogs.tsx";

/** Where a build's paper is. */
export const paperAddress = (ids: readonly number[]): string => `/api/build-sheets?ids=${ids.join(",")}`;

type StepForm = "plan" | "parts" | "copy" | "link" | "split" | "join" | "fee" | "returnToStock" | "cancel";

const FORMS: Record<StepForm, { title: (number: string) => string; form: (props: StepProps) => ReactNode }> =
  {
    plan: { title: (number) => `Change ${number}`, form: (props) => <PlanForm {...props} /> },
    parts: { title: (number) => `Parts of ${number}`, form: (props) => <PartsForm {...props} /> },
    copy: { title: (number) => `Duplicate ${number}`, form: (props) => <CopyForm {...props} /> },
    link: { title: (number) => `Who is ${number} for?`, form: (props) => <LinkForm {...props} /> },
    split: { title: (number) => `Split ${number} in two`, form: (props) => <SplitForm {...props} /> },
    join: { title: (number) => `Join another draft to ${number}`, form: (props) => <JoinForm {...props} /> },
    fee: { title: (number) => `Fee for ${number}`, form: (props) => <FeeForm {...props} /> },
    returnToStock: {
      title: (number) => `Return the parts of ${number} to stock`,
      form: (props) => <ReturnForm {...props} />,
    },
    cancel: { title: (number) => `Cancel ${number}?`, form: (props) => <CancelForm {...props} /> },
  };

/** What else can be done with a build at its stage: the everyday steps as buttons, the rest behind one more. */
export function Steps({ build }: { build: BuildSheet }) {
  const [opened, setOpened] = useState<StepForm | null>(null);
  const input = { params: { id: build.id } };
  const unqueue = useCommand(buildRoutes.unqueueBuild, () => sayDone(`${build.number} is a draft again.`));
  const may = (step: Parameters<typeof mayBuild>[0]) => mayBuild(step, build.stage);
  const opens = (what: StepForm) => ({ onAction: () => setOpened(what) });
  const benched = build.lines.some((line) => line.bench !== "0");
  const items = [
    may("parts") &&
      build.finishes.length === 0 && { id: "parts", label: "Change its parts …", ...opens("parts") },
    { id: "copy", label: "Duplicate …", ...opens("copy") },
    build.stage !== "cancelled" && { id: "link", label: "Link an order …", ...opens("link") },
    may("split") && { id: "split", label: "Split in two …", ...opens("split") },
    may("join") && { id: "join", label: "Join another draft …", ...opens("join") },
    build.subcontractor &&
      may("plan") && { id: "fee", label: "Order the subcontractor’s fee …", ...opens("fee") },
    may("unqueue") &&
      build.good === "0" &&
      build.rejected === "0" && {
        id: "unqueue",
        label: "Back to draft",
        onAction: () => void unqueue.run(input),
      },
    may("returnToStock") &&
      benched && {
        id: "returnToStock",
        label: "Return parts to stock …",
        ...opens("returnToStock"),
      },
    may("cancel") && { id: "cancel", label: "Cancel the build …", ...opens("cancel") },
  ].filter((item) => item !== false && item !== null);
  const open = opened && FORMS[opened];
  return (
    <>
      {may("plan") && <Button onPress={() => setOpened("plan")}>Change</Button>}
      <Button onPress={() => window.open(paperAddress([build.id]), "_blank", "noopener")}>Print sheet</Button>
      <MenuButton label={`More actions for ${build.number}`} items={items}>
        More …
      </MenuButton>
      {unqueue.refusal && <Notice>{unqueue.refusal.message}</Notice>}
      <Dialog
        title={open ? open.title(build.number) : ""}
        isOpen={opened !== null}
        onClose={() => setOpened(null)}
        width={opened === "parts" ? "780px" : "680px"}
      >
        {open?.form({ build, onClose: () => setOpened(null) })}
      </Dialog>
    </>
  );
}

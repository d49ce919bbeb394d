import { type BuildSheet, buildRoutes, type ItemBrief } from "@yosegi/contract";
import { useFormContext, useWatch } from "react-hook-form";
import { useCommand } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormOf, sentLines, useCommandForm } from "../forms/index.ts";
import { Button, Notice, Stack, Sub, sayDone } from "../ui/index.ts";
import type { StepProps } from "./stepdialogs.tsx";

type PartItem = Pick<ItemBrief, "id" | "code" | "name" | "unit" | "packs">;

/** A part as it is typed. */
export interface PartDraft {
  line: number | null;
  item: PartItem | null;
  quantity: string;
  /** The unit that its quantity is measured in. */
  unit: string;
  note: string;
}

/** The parts of a build as they stand in a form. */
export interface PartsDraft {
  parts: PartDraft[];
}

export const BLANK_PART: PartDraft = { line: null, item: null, quantity: "", unit: "", note: "" };

const draftOf = (build: BuildSheet): PartsDraft => ({
  parts: build.lines.map(({ line, item, need, unit, note }) => ({ line, item, quantity: need, unit, note })),
});

/** Lines that are still empty are room to go on. */
const isFilled = (part: PartDraft): boolean => part.item !== null || part.quantity !== "";

/** What is sent of the parts that were typed. */
export const sentParts = (parts: readonly PartDraft[]) =>
  parts
    .filter(isFilled)
    .map(({ line, item, quantity, note }) => ({ line, item: item?.id ?? 0, quantity, note }));

export const partField = sentLines("parts", isFilled);

/** The parts that one build takes, whatever its list says: quantities, substitutes, parts added or dropped. */
export function PartsForm({ build, onClose }: StepProps) {
  const form = useCommandForm({
    route: buildRoutes.changeParts,
    params: { id: build.id },
    begin: draftOf(build),
    version: build.version,
    fieldOf: partField,
    body: ({ parts }: PartsDraft) => ({ parts: sentParts(parts) }),
    done: () => {
      sayDone(`${build.number} has parts of its own.`);
      onClose();
    },
  });
  return (
    <FormOf
      form={form}
      save="Save parts"
      more={build.ownParts && build.list && <UseList build={build} onClose={onClose} />}
    >
      <Stack>
        <Sub>
          For {build.number} only, for the whole build. The parts list of {build.product.code} stays as it is.
        </Sub>
        <PartLines product={build.product.id} />
      </Stack>
    </FormOf>
  );
}

/** Takes the parts by the parts list again. */
function UseList({ build, onClose }: StepProps) {
  const follow = useCommand(buildRoutes.followList, () => {
    sayDone(`${build.number} follows its parts list again.`);
    onClose();
  });
  return (
    <>
      <Button isPending={follow.busy} onPress={() => void follow.run({ params: { id: build.id } })}>
        Use the parts list again
      </Button>
      {follow.refusal && <Notice>{follow.refusal.message}</Notice>}
    </>
  );
}

const In = fieldsOf<PartsDraft>();

const HEADS = [
  ["Part", "300px"],
  ["Quantity", "150px"],
  ["Note", "200px"],
] as const;

/** The lines in which the parts of a build are typed. */
export function PartLines({ product }: { product: number }) {
  return (
    <In.Lines name="parts" blank={BLANK_PART} heads={HEADS} add="Add part">
      {(at, i) => <PartFields at={at} number={i + 1} product={product} />}
    </In.Lines>
  );
}

function PartFields({ at, number, product }: { at: `parts.${number}`; number: number; product: number }) {
  const { setValue } = useFormContext<PartsDraft>();
  const item = useWatch<PartsDraft, `parts.${number}.item`>({ name: `${at}.item` });
  const unit = useWatch<PartsDraft, `parts.${number}.unit`>({ name: `${at}.unit` });
  return (
    <>
      <In.Item
        label={`Part ${number}`}
        hideLabel
        name={`${at}.item`}
        width="300px"
        choosing="part"
        product={product}
        // Another part is measured in a unit of its own, whatever the line was in before.
        onChanged={(chosen) => setValue(`${at}.unit`, chosen?.unit ?? "")}
      />
      <In.Quantity
        label={`Quantity ${number}`}
        hideLabel
        name={`${at}.quantity`}
        width="150px"
        unit={unit}
        packs={item?.packs ?? []}
      />
      <In.Text label={`Note ${number}`} hideLabel name={`${at}.note`} width="200px" />
    </>
  );
}

import { type FirmBody, type FirmKind, type FirmSheet, firmRoutes } from "@yosegi/contract";
import type { NewFirmDialogProps } from "../fields/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { Row, Stack, sayDone, useFormat } from "../ui/index.ts";
import { WORDS } from "./words.ts";

/** A supplier or customer as typed. */
type FirmDraft = Omit<FirmBody, "creditLimit"> & { creditLimit: string };

const bodyOf = ({ creditLimit, ...typed }: FirmDraft): FirmBody => ({
  ...typed,
  creditLimit: creditLimit === "" ? null : creditLimit,
});

const BLANK: FirmDraft = {
  code: "",
  name: "",
  address: "",
  contact: "",
  email: "",
  phone: "",
  terms: "",
  note: "",
  onHold: false,
  creditLimit: "",
  taxExempt: false,
  group: "",
  archived: false,
};

/** Makes a customer or supplier, from its page or on the spot where one is missing. */
export function NewFirmDialog({ kind, begin, onClose, onMade }: NewFirmDialogProps) {
  return (
    <FormDialog
      title={`New ${WORDS[kind].one}`}
      isOpen={begin !== null}
      onClose={onClose}
      width="620px"
      save={`Add ${WORDS[kind].one}`}
      route={firmRoutes.newFirm}
      begin={{ ...BLANK, name: begin ?? "" }}
      body={(typed: FirmDraft) => {
        const { archived: _, ...body } = bodyOf(typed);
        return { ...body, kind };
      }}
      done={(firm) => {
        sayDone(`${WORDS[kind].title} ${firm.name} added.`);
        onMade(firm);
      }}
    >
      <FirmFields kind={kind} />
    </FormDialog>
  );
}

const draftOf = ({
  code,
  name,
  address,
  contact,
  email,
  phone,
  terms,
  note,
  onHold,
  creditLimit,
  taxExempt,
  group,
  archived,
}: FirmSheet): FirmDraft => ({
  code,
  name,
  address,
  contact,
  email,
  phone,
  terms,
  note,
  onHold,
  creditLimit: creditLimit ?? "",
  taxExempt,
  group,
  archived,
});

export function EditFirmDialog({
  firm,
  isOpen,
  onClose,
}: {
  firm: FirmSheet;
  isOpen: boolean;
  onClose: () => void;
}) {
  return (
    <FormDialog
      title={`Change ${firm.name}`}
      isOpen={isOpen}
      onClose={onClose}
      width="620px"
      save="Save"
      route={firmRoutes.changeFirm}
      begin={draftOf(firm)}
      version={firm.version}
      params={{ id: firm.id }}
      body={bodyOf}
      done={({ name }) => sayDone(`${name} is saved.`)}
    >
      <FirmFields kind={firm.kind} />
      <In.Tick name="archived">Archived (no longer offered)</In.Tick>
    </FormDialog>
  );
}

const In = inputsOf<FirmDraft>();

function FirmFields({ kind }: { kind: FirmKind }) {
  const format = useFormat();
  return (
    <Stack>
      <Row>
        <In.Text label="Code" name="code" width="150px" />
        <In.Text label="Name" name="name" width="390px" />
      </Row>
      <Row>
        <In.Text label="Contact" name="contact" width="270px" />
        <In.Text label="Phone" name="phone" width="270px" />
      </Row>
      <In.Text label="E-mail" name="email" />
      <In.Text label="Address" name="address" lines />
      <In.Text label="Terms" name="terms" />
      <In.Text label="Note" name="note" lines />
      {kind === "customer" && (
        <>
          <Row>
            <In.Amount
              label="Credit limit"
              name="creditLimit"
              width="190px"
              unit={format.settings.currency}
              placeholder="none"
            />
            <In.Text
              label="Group"
              name="group"
              width="350px"
              hint="Customers of a group share a price list."
            />
          </Row>
          <In.Tick name="onHold">On hold: orders only by going on anyway</In.Tick>
          <In.Tick name="taxExempt">Tax-exempt</In.Tick>
        </>
      )}
    </Stack>
  );
}

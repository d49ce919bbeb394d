import { type FirmBody, type FirmSheet, firmRoutes } from "@yosegi/contract";
import type { NewFirmDialogProps } from "../fields/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { Row, Stack, sayDone } from "../ui/index.ts";
import { WORDS } from "./words.ts";

const BLANK: FirmBody = {
  code: "",
  name: "",
  address: "",
  contact: "",
  email: "",
  phone: "",
  terms: "",
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
      body={({ archived: _, ...typed }: FirmBody) => ({ ...typed, kind })}
      done={(firm) => {
        sayDone(`${WORDS[kind].title} ${firm.name} added.`);
        onMade(firm);
      }}
    >
      <FirmFields />
    </FormDialog>
  );
}

const bodyOfFirm = ({
  code,
  name,
  address,
  contact,
  email,
  phone,
  terms,
  archived,
}: FirmSheet): FirmBody => ({
  code,
  name,
  address,
  contact,
  email,
  phone,
  terms,
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
      begin={bodyOfFirm(firm)}
      version={firm.version}
      params={{ id: firm.id }}
      body={(typed: FirmBody) => typed}
      done={({ name }) => sayDone(`${name} is saved.`)}
    >
      <FirmFields />
      <In.Tick name="archived">Archived (no longer offered)</In.Tick>
    </FormDialog>
  );
}

const In = inputsOf<FirmBody>();

function FirmFields() {
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
    </Stack>
  );
}

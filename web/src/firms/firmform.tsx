import { type Firm, type FirmBody, type FirmKind, type FirmSheet, routes } from "@yosegi/contract";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import type { NewFirmDialogProps } from "../fields/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  type Described,
  Dialog,
  Form,
  Row,
  Stack,
  Stale,
  sayDone,
  TextField,
} from "../ui/index.ts";
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
    <Dialog title={`New ${WORDS[kind].one}`} isOpen={begin !== null} onClose={onClose} width="620px">
      <NewFirm
        kind={kind}
        begin={begin ?? ""}
        onMade={(firm) => {
          onClose();
          onMade(firm);
        }}
      />
    </Dialog>
  );
}

interface NewFirmProps {
  kind: FirmKind;
  /** The name to begin with. */
  begin: string;
  onMade: (firm: Firm) => void;
}

function NewFirm({ kind, begin, onMade }: NewFirmProps) {
  const [draft, setDraft] = useState({ ...BLANK, name: begin });
  const make = useCommand(routes.newFirm, (firm) => {
    sayDone(`${firm.name} is there.`);
    onMade(firm);
  });
  const { archived: _, ...body } = draft;
  return (
    <Form refusal={make.refusal} onSubmit={() => void make.run({ body: { ...body, kind } })}>
      <FirmFields draft={draft} onChange={setDraft} />
      <Actions>
        <Button look="main" type="submit" isPending={make.busy}>
          Make the {WORDS[kind].one}
        </Button>
      </Actions>
    </Form>
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

/** What is said of a firm, to be held against what somebody else made of it. */
const describe = (firm: FirmBody): Described => [
  ["Code", firm.code],
  ["Name", firm.name],
  ["Address", firm.address],
  ["Contact", firm.contact],
  ["Email", firm.email],
  ["Phone", firm.phone],
  ["Terms", firm.terms],
  ["Archived", firm.archived ? "yes" : "no"],
];

export function EditFirm({ firm, onDone }: { firm: FirmSheet; onDone: () => void }) {
  const [draft, setDraft] = useState(() => bodyOfFirm(firm));
  const [version, setVersion] = useState(firm.version);
  const save = useCommand(routes.changeFirm, () => {
    sayDone(`${draft.name} is saved.`);
    onDone();
  });
  return (
    <Form
      refusal={save.refusal}
      onSubmit={() => void save.run({ params: { id: firm.id }, body: draft, version })}
    >
      <Stale
        command={save}
        mine={describe(draft)}
        theirs={describe(firm)}
        onMine={() => {
          setVersion(firm.version);
        }}
        onTheirs={() => {
          setDraft(bodyOfFirm(firm));
          setVersion(firm.version);
        }}
      />
      <FirmFields draft={draft} onChange={setDraft} />
      <Checkbox
        isSelected={draft.archived}
        onChange={(on) => setDraft((before) => ({ ...before, archived: on }))}
      >
        Archived: offered nowhere any more
      </Checkbox>
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

function FirmFields({ draft, onChange }: { draft: FirmBody; onChange: (draft: FirmBody) => void }) {
  const field = (name: Exclude<keyof FirmBody, "archived">, label: string, width: string, lines = false) => (
    <TextField
      label={label}
      name={name}
      width={width}
      lines={lines}
      value={draft[name]}
      onChange={(text) => onChange({ ...draft, [name]: text })}
    />
  );
  return (
    <Stack>
      <Row>
        {field("code", "Code", "150px")}
        {field("name", "Name", "390px")}
      </Row>
      <Row>
        {field("contact", "Contact", "270px")}
        {field("phone", "Phone", "270px")}
      </Row>
      {field("email", "E-mail", "100%")}
      {field("address", "Address", "100%", true)}
      {field("terms", "Terms", "100%")}
    </Stack>
  );
}

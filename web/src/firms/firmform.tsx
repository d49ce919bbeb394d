import { type Firm, type FirmBody, type FirmKind, type FirmSheet, routes } from "@yosegi/contract";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import { Actions, Button, Checkbox, Form, Row, Stack, sayDone, TextField } from "../ui/index.ts";
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

export function NewFirm({ kind, onMade }: { kind: FirmKind; onMade: (firm: Firm) => void }) {
  const [draft, setDraft] = useState(BLANK);
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

export function EditFirm({ firm, onDone }: { firm: FirmSheet; onDone: () => void }) {
  const { code, name, address, contact, email, phone, terms, archived } = firm;
  const [draft, setDraft] = useState<FirmBody>({
    code,
    name,
    address,
    contact,
    email,
    phone,
    terms,
    archived,
  });
  const save = useCommand(routes.changeFirm, () => {
    sayDone(`${draft.name} is saved.`);
    onDone();
  });
  return (
    <Form refusal={save.refusal} onSubmit={() => void save.run({ params: { id: firm.id }, body: draft })}>
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

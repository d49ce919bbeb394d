import { routes } from "@yosegi/contract";
import { useState } from "react";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { Actions, Button, Form, Stack, Sub, TextField } from "../ui/index.ts";
import { CompanyFields } from "./companyfields.tsx";
import { useWorking } from "./working.tsx";

/** The first page of an empty database: whose stock this is, and who begins. */
export function SetUpPage() {
  const { choose } = useWorking();
  const [name, setName] = useState("");
  const [currency, setCurrency] = useState("EUR");
  const [timeZone, setTimeZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone);
  const [store, setStore] = useState("Front store");
  const [person, setPerson] = useState("");
  const setUp = useCommand(routes.setUp, (answer) => choose(answer.person.id));
  const submit = () => setUp.run({ body: { name, currency, timeZone, store, person } });
  return (
    <Wide>
      <h1>Whose stock is this?</h1>
      <Sub>
        The database is empty. Name the company and who is working; then the items can come in from your
        spreadsheet.
      </Sub>
      <Form refusal={setUp.refusal} onSubmit={() => void submit()}>
        <Stack>
          <TextField label="Company" name="name" value={name} onChange={setName} autoFocus />
          <CompanyFields
            currency={currency}
            onCurrency={setCurrency}
            timeZone={timeZone}
            onTimeZone={setTimeZone}
          />
          <TextField
            label="First store"
            name="store"
            value={store}
            onChange={setStore}
            hint="Where stock lies. More stores come in with your files."
          />
          <TextField
            label="Your name"
            name="person"
            value={person}
            onChange={setPerson}
            hint="Goes on everything you record."
          />
        </Stack>
        <Actions>
          <Button look="main" type="submit" isPending={setUp.busy}>
            Begin
          </Button>
        </Actions>
      </Form>
    </Wide>
  );
}

const Wide = styled.main`
  max-width: 460px;
  margin: 10vh auto;
  padding: 0 20px;
`;

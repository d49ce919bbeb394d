import { peopleRoutes } from "@yosegi/contract";
import styled from "styled-components";
import { FormOf, inputsOf, useCommandForm } from "../forms/index.ts";
import { Stack, Sub } from "../ui/index.ts";
import { CompanyFields } from "./companyfields.tsx";
import { useWorking } from "./working.tsx";

interface SetUpDraft {
  name: string;
  currency: string;
  timeZone: string;
  taxRate: string;
  store: string;
  person: string;
}

const In = inputsOf<SetUpDraft>();

/** The first page of an empty database: whose stock this is, and who begins. */
export function SetUpPage() {
  const { choose } = useWorking();
  const form = useCommandForm({
    route: peopleRoutes.setUp,
    begin: {
      name: "",
      currency: "EUR",
      timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
      taxRate: "0",
      store: "Front store",
      person: "",
    },
    body: (typed: SetUpDraft) => typed,
    done: ({ person }) => choose(person.id),
  });
  return (
    <Wide>
      <h1>Set up your company</h1>
      <Sub>Enter your company and your name. You can import your items next.</Sub>
      <FormOf form={form} save="Get started">
        <Stack>
          <In.Text label="Company" name="name" autoFocus />
          <CompanyFields />
          <In.Text label="First store" name="store" hint="Where you keep stock. You can import more later." />
          <In.Text label="Your name" name="person" hint="Shown on everything you record." />
        </Stack>
      </FormOf>
    </Wide>
  );
}

const Wide = styled.main`
  max-width: 460px;
  margin: 10vh auto;
  padding: 0 20px;
`;

import { type Company, type Person, routes } from "@yosegi/contract";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Unanswered, useCommand, usePress } from "../api/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  Dialog,
  EditButton,
  Fact,
  Facts,
  Form,
  Section,
  SheetTable,
  Stack,
  sayDone,
  TextField,
  useAsk,
} from "../ui/index.ts";
import { CompanyFields } from "./companyfields.tsx";
import { useCompany, usePeople } from "./queries.ts";

/** The company's name, currency and time zone. */
export function CompanySettings() {
  const { data, error } = useCompany();
  const [changing, setChanging] = useState(false);
  if (!data?.company) return <Unanswered error={error} />;
  const { company } = data;
  return (
    <Section
      title="Company"
      more={
        <Button look="link" onPress={() => setChanging(true)}>
          Change
        </Button>
      }
    >
      <Facts>
        <Fact name="Name">{company.name}</Fact>
        <Fact name="Currency">{company.currency}</Fact>
        <Fact name="Time zone">{company.timeZone}</Fact>
      </Facts>
      <Dialog title="Change the company" isOpen={changing} onClose={() => setChanging(false)} width="520px">
        <CompanyForm company={company} onDone={() => setChanging(false)} />
      </Dialog>
    </Section>
  );
}

function CompanyForm({ company, onDone }: { company: Company; onDone: () => void }) {
  const [name, setName] = useState(company.name);
  const [currency, setCurrency] = useState(company.currency);
  const [timeZone, setTimeZone] = useState(company.timeZone);
  const save = useCommand(routes.changeCompany, () => {
    sayDone("The company is changed.");
    onDone();
  });
  return (
    <Form refusal={save.refusal} onSubmit={() => void save.run({ body: { name, currency, timeZone } })}>
      <Stack>
        <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
        <CompanyFields
          currency={currency}
          onCurrency={setCurrency}
          timeZone={timeZone}
          onTimeZone={setTimeZone}
        />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

/** Who works here, and who did: names stay on what they recorded. */
export function People() {
  const { data, error } = usePeople();
  const ask = useAsk();
  const [open, setOpen] = useState<Person | "new" | null>(null);
  const remove = usePress(routes.removePerson, () => sayDone("The person is removed."));
  if (!data) return <Unanswered error={error} />;
  const close = () => setOpen(null);
  const onRemove = async (person: Person) => {
    const yes = await ask({
      title: `Remove ${person.name}?`,
      text: "Somebody who has recorded something stays, and can be archived instead.",
      yes: "Remove",
    });
    if (yes) await remove.run({ params: { id: person.id } });
  };
  return (
    <Section
      title="People"
      more={
        <Button look="link" onPress={() => setOpen("new")}>
          <Plus /> New person
        </Button>
      }
    >
      <SheetTable
        label="People"
        rows={data.people}
        rowId={(person) => person.id}
        columns={[
          { header: "Name", cell: (person) => <b>{person.name}</b> },
          { header: "", cell: (person) => (person.archived ? "archived" : "") },
          {
            header: "",
            end: true,
            cell: (person) => (
              <>
                <EditButton label={`Change ${person.name}`} onPress={() => setOpen(person)} />
                <Button
                  look="icon"
                  aria-label={`Remove ${person.name}`}
                  onPress={() => void onRemove(person)}
                >
                  <Trash2 />
                </Button>
              </>
            ),
          },
        ]}
      />
      <Dialog
        title={open === "new" ? "New person" : `Change ${open?.name ?? ""}`}
        isOpen={open !== null}
        onClose={close}
        width="420px"
      >
        {open !== null && <PersonForm person={open === "new" ? null : open} onDone={close} />}
      </Dialog>
    </Section>
  );
}

function PersonForm({ person, onDone }: { person: Person | null; onDone: () => void }) {
  const [name, setName] = useState(person?.name ?? "");
  const [archived, setArchived] = useState(person?.archived ?? false);
  const done = () => {
    sayDone(`${name} is saved.`);
    onDone();
  };
  const add = useCommand(routes.addPerson, done);
  const change = useCommand(routes.changePerson, done);
  const refusal = person ? change.refusal : add.refusal;
  const submit = () =>
    void (person
      ? change.run({ params: { id: person.id }, body: { name, archived } })
      : add.run({ body: { name } }));
  return (
    <Form refusal={refusal} onSubmit={submit}>
      <Stack>
        <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
        {person && (
          <Checkbox isSelected={archived} onChange={setArchived}>
            Archived: no longer works here
          </Checkbox>
        )}
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={add.busy || change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

import { byId, day, figure, name, ref, taxRate } from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const person = z
  .object({
    id: ref,
    name: z.string(),
    archived: z.boolean().meta({ description: "Works here no longer; stays on what was recorded" }),
  })
  .meta({ id: "Person" });
export type Person = z.infer<typeof person>;

export const company = z
  .object({
    name: z.string(),
    currency: z.string(),
    timeZone: z.string(),
    taxRate: figure.meta({ description: "Percent; of items without a rate of their own" }),
    today: day,
  })
  .meta({ id: "Company" });
export type Company = z.infer<typeof company>;

const companyBody = z.object({
  name,
  currency: z.string().regex(/^[A-Z]{3}$/, "A currency is three capital letters, such as EUR."),
  timeZone: z.string().min(1, "The time zone is missing."),
  taxRate: taxRate.default("0").meta({ description: "Percent; of items without a rate of their own" }),
});

export const setUp = companyBody.extend({
  store: name,
  person: name,
});

export const peopleRoutes = {
  company: ask("/api/company", {
    permission: "look",
    summary: "The company, or null while the database is empty",
    answer: z.object({ company: company.nullable() }),
  }),
  setUp: command("/api/company", {
    permission: "company",
    summary: "Name the company, its first store and its first person",
    body: setUp,
    answer: z.object({ company, person }),
    anonymous: true,
  }),
  changeCompany: replace("/api/company", {
    permission: "company",
    summary: "Rename the company, or change its time zone or tax rate; its currency, while nothing is posted",
    body: companyBody,
    answer: company,
  }),
  people: ask("/api/people", {
    permission: "look",
    summary: "Everybody who works here",
    answer: z.object({ people: z.array(person) }),
  }),
  addPerson: command("/api/people", {
    permission: "company",
    summary: "Add a person",
    body: z.object({ name }),
    answer: person,
  }),
  changePerson: replace("/api/people/:id", {
    permission: "company",
    summary: "Rename a person, or archive one who works here no longer",
    ...byId,
    body: z.object({ name, archived: z.boolean().default(false) }),
    answer: person,
  }),
  removePerson: command("/api/people/:id/remove", {
    permission: "company",
    summary: "Remove a person who has recorded nothing",
    ...byId,
    answer: z.object({}),
  }),
};

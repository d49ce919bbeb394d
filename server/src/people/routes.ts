import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import {
  addPerson,
  changeCompany,
  changePerson,
  companyAnswer,
  listPeople,
  removePerson,
  setUp,
} from "./service.ts";

export function peopleRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.company, async (ctx) => ({ company: companyAnswer(ctx) }));
  serveCommand(app, store, routes.setUp, (ctx, { body }) => setUp(ctx, body));
  serveAsk(app, store, routes.people, async (ctx) => ({ people: await listPeople(ctx) }));
  serveCommand(app, store, routes.addPerson, (ctx, { body }) => addPerson(ctx, body.name));
  serveCommand(app, store, routes.changeCompany, (ctx, { body }) => changeCompany(ctx, body));
  serveCommand(app, store, routes.changePerson, (ctx, { params, body }) =>
    changePerson(ctx, params.id, body),
  );
  serveCommand(app, store, routes.removePerson, (ctx, { params }) => removePerson(ctx, params.id));
}

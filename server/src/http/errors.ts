import { randomUUID } from "node:crypto";
import { type ErrorAnswer, type ErrorCode, type FieldError, Refusal } from "@yosegi/contract";
import { AmountTooLarge } from "@yosegi/core";
import type { FastifyError, FastifyInstance, FastifyReply, FastifyRequest } from "fastify";
import { hasZodFastifySchemaValidationErrors } from "fastify-type-provider-zod";
import { ForeignKeyConstraintError } from "sequelize";

/** What Fastify itself refuses, by its code. */
const OF_FASTIFY: Record<string, ErrorCode> = {
  FST_ERR_CTP_INVALID_JSON_BODY: "not-json",
  FST_ERR_CTP_EMPTY_JSON_BODY: "not-json",
  FST_ERR_CTP_INVALID_MEDIA_TYPE: "unsupported-type",
  FST_ERR_CTP_BODY_TOO_LARGE: "too-large",
};

/** The one handler: every error, thrown anywhere, becomes an answer of the catalogue here. */
export function handleErrors(app: FastifyInstance): void {
  app.setErrorHandler((error: FastifyError, request, reply) => answer(asRefusal(error, request), reply));
  app.setNotFoundHandler((request, reply) =>
    answer(new Refusal("no-route", { path: request.url.slice(0, 200) }), reply),
  );
}

function asRefusal(error: FastifyError, request: FastifyRequest): Refusal {
  if (error instanceof Refusal) return error;
  if (error instanceof AmountTooLarge) return new Refusal("amount-too-large");
  if (hasZodFastifySchemaValidationErrors(error))
    return new Refusal("invalid-input", {}, fieldsOf(error.validation));
  // A rule of its own should have refused it before with better words; the database's keys are the last to hold.
  if (error instanceof ForeignKeyConstraintError) return new Refusal("still-used");
  const code = OF_FASTIFY[error.code];
  if (code) return new Refusal(code, { limit: Math.floor(request.routeOptions.bodyLimit / 1_000_000) });
  const reference = randomUUID().slice(0, 8);
  request.log.error({ err: error, reference }, "unexpected");
  return new Refusal("unexpected", { reference });
}

function fieldsOf(
  validation: readonly { instancePath: string; message?: string | undefined }[],
): FieldError[] {
  return validation.map((issue) => ({
    field: issue.instancePath.split("/").filter(Boolean).join("."),
    code: "invalid-input",
    message: issue.message ?? "",
  }));
}

function answer(refusal: Refusal, reply: FastifyReply) {
  const body: ErrorAnswer = {
    code: refusal.code,
    message: refusal.message,
    fields: refusal.fields,
    ...refusal.details,
  };
  return reply.status(refusal.status).send(body);
}

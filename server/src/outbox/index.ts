export { addMessage, type MessageAbout, markSent, messagesAbout, outboxMessage } from "./outbox.ts";
export * from "./routes.ts";

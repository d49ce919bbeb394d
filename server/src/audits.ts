import { auditBuilds } from "./builds/index.ts";
import { auditPurchases } from "./buying/index.ts";
import type { Reading } from "./db/index.ts";
import { type AuditDifference, auditLedger, compareAll } from "./ledger/index.ts";
import { auditOrders } from "./orders/index.ts";
import { auditReturns } from "./returns/index.ts";
import { auditShipments } from "./shipping/index.ts";

/** Compares what is kept in step (balances, pools, reservations, documents) with the ledger; empty where all agrees. */
export const audit = (ctx: Reading): Promise<AuditDifference[]> =>
  compareAll(ctx, [auditLedger, auditBuilds, auditOrders, auditShipments, auditReturns, auditPurchases]);

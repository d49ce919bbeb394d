/** What other areas may read of this one's tables (docs/architecture.md). */
export const firmViews = {
  firm_head:
    "SELECT id, kind, code, code_key, name, address, contact, email, phone, terms, archived, note, on_hold, credit_limit, tax_exempt, customer_group, customer_group_key FROM firm",
};

export const WORDS = {
  supplier: {
    title: "Suppliers",
    one: "supplier",
    many: "suppliers",
    empty: "Who you buy from. Each item says which of them supply it, at what price and how fast.",
  },
  customer: {
    title: "Customers",
    one: "customer",
    many: "customers",
    empty: "Who you sell to. Orders and papers take name, address and terms from here.",
  },
} as const;

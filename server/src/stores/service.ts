export {
  addBins,
  changeStore,
  listStores,
  newStore,
  orderBins,
  removeBin,
  removeStore,
} from "../ledger/index.ts";

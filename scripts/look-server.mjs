import { throwawayPostgres, throwawayWorkshop } from "./lib/throwaway.mjs";
const postgres = await throwawayPostgres(54950);
const { base } = await throwawayWorkshop(postgres, "looks", 4950);
console.log("READY", base);
setInterval(() => {}, 1e6);

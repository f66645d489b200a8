/** How many units stand on one page of the list: asked for by the address, offered beneath the list. */
export const UNIT_PAGE_SIZES: readonly number[] = [25, 50, 100];

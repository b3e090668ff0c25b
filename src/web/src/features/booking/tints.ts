let order: string[] = [];

/** Gives each category its tint, in house order. */
export const setTints = (categoryIds: string[]) => {
  order = categoryIds;
};

export const tintOf = (categoryId: string) => `tint${Math.max(0, order.indexOf(categoryId)) % 7}`;

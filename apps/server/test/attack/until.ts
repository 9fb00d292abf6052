/** Waits until something holds. @returns whether it came to hold in time */
export const until = async (good: () => Promise<boolean> | boolean, withinMs = 10_000): Promise<boolean> => {
  for (const end = Date.now() + withinMs; Date.now() < end; await new Promise((resolve) => setTimeout(resolve, 60)))
    if (await Promise.resolve(good()).catch(() => false)) return true;
  return false;
};

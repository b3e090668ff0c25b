const key = "kingcup-shown";

/** Whether somebody has shown who they are on this device. What they are is known to the server alone. */
export const shownHere = {
  is: () => {
    try {
      return localStorage.getItem(key) !== null;
    } catch {
      return false;
    }
  },
  set: (is: boolean) => {
    try {
      if (is) localStorage.setItem(key, "1");
      else localStorage.removeItem(key);
    } catch {
      // A browser that keeps nothing asks again.
    }
  },
};

const key = "kingcup-staff";

/**
 * Whether somebody of the staff has signed in on this device, so that the booking page asks about a session only there. It
 * says no more than that; what one may do the server decides.
 */
export const staffHere = {
  is: () => {
    try {
      return localStorage.getItem(key) !== null;
    } catch {
      // A browser that keeps nothing for this page.
      return false;
    }
  },
  mark: () => localStorage.setItem(key, "1"),
  forget: () => localStorage.removeItem(key),
};

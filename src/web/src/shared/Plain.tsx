import { chakra } from "@chakra-ui/react";

/** A bare button to be styled where it stands. Unlike the browser's own it never submits the form around it. */
export const Plain = chakra("button", {}, { defaultProps: { type: "button" } });

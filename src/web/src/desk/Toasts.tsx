import { t } from "@lingui/core/macro";
import { Toast, Toaster } from "@chakra-ui/react";
import { X } from "lucide-react";
import { toasts } from "../shared/toasts";

/** The foot of the window, where what was done is said. */
export const Toasts = () => (
  <Toaster toaster={toasts}>
    {(toast) => (
      <Toast.Root>
        <Toast.Title>{toast.title}</Toast.Title>
        {toast.action && <Toast.ActionTrigger>{toast.action.label}</Toast.ActionTrigger>}
        <Toast.CloseTrigger aria-label={t`Close`}>
          <X size={16} aria-hidden />
        </Toast.CloseTrigger>
      </Toast.Root>
    )}
  </Toaster>
);

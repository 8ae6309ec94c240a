export const staffCookie = "kl_staff";
/** A device that somebody of the practice signed in on before: wrong passwords typed elsewhere hold it up no more. */
export const deviceCookie = "kl_device";
export const halfwayCookie = "kl_halfway";
export const doorCookie = "kl_door";
/** The pass this device got at one link, sent to that link's door only. */
export const linkCookie = "kl_link";
/** The newest door pass of this device, sent to the doors only: it may open another packet of the same person. */
export const knownCookie = "kl_known";

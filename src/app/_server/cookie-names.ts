export const staffCookie = 'kl_staff';
export const halfwayCookie = 'kl_halfway';
export const doorCookie = 'kl_door';

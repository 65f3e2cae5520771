// What the door knows of the application's addresses: that they are elsewhere. There it is opened again.

export type Href = string;
const go = (to: string) => location.assign(to);
export const useRouter = () => ({ replace: go, navigate: go });
export const usePathname = () => location.pathname;

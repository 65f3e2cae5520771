export { Why as default } from '../features/why/Why';

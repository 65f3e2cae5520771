export { ConnectScreen as default } from '../../features/connect/ConnectScreen';

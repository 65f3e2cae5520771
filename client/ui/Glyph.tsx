// Glyphs. Each icon is imported by itself, so that only these few are shipped.

import ArrowDown from 'lucide-react-native/icons/arrow-down';
import ArrowUp from 'lucide-react-native/icons/arrow-up';
import Calendar from 'lucide-react-native/icons/calendar-days';
import Clock from 'lucide-react-native/icons/clock';
import Download from 'lucide-react-native/icons/download';
import Key from 'lucide-react-native/icons/key-round';
import NotebookPen from 'lucide-react-native/icons/notebook-pen';
import Shield from 'lucide-react-native/icons/shield';
import Smartphone from 'lucide-react-native/icons/smartphone';
import Circle from 'lucide-react-native/icons/circle';
import CircleQuestionMark from 'lucide-react-native/icons/circle-question-mark';
import CircleDot from 'lucide-react-native/icons/circle-dot';
import Square from 'lucide-react-native/icons/square';
import SquareCheck from 'lucide-react-native/icons/square-check';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import Car from 'lucide-react-native/icons/car';
import Activity from 'lucide-react-native/icons/activity';
import Bell from 'lucide-react-native/icons/bell';
import HardDrive from 'lucide-react-native/icons/hard-drive';
import Plug from 'lucide-react-native/icons/plug';
import Check from 'lucide-react-native/icons/check';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import Dog from 'lucide-react-native/icons/dog';
import FileText from 'lucide-react-native/icons/file-text';
import House from 'lucide-react-native/icons/house';
import List from 'lucide-react-native/icons/list';
import MapPin from 'lucide-react-native/icons/map-pin';
import Minus from 'lucide-react-native/icons/minus';
import Pause from 'lucide-react-native/icons/pause';
import Pencil from 'lucide-react-native/icons/pencil';
import Play from 'lucide-react-native/icons/play';
import Redo from 'lucide-react-native/icons/redo-2';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import TriangleAlert from 'lucide-react-native/icons/triangle-alert';
import Undo from 'lucide-react-native/icons/undo-2';
import Upload from 'lucide-react-native/icons/upload';
import UserRound from 'lucide-react-native/icons/user-round';
import Copy from 'lucide-react-native/icons/copy';
import FlipHorizontal from 'lucide-react-native/icons/square-centerline-dashed-horizontal';
import Mail from 'lucide-react-native/icons/mail';
import Plus from 'lucide-react-native/icons/plus';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import Search from 'lucide-react-native/icons/search';
import Footprints from 'lucide-react-native/icons/footprints';
import Video from 'lucide-react-native/icons/video';
import X from 'lucide-react-native/icons/x';
import type { ComponentProps } from 'react';
import type { PaperProvider } from 'react-native-paper';
import type { ClassName } from '@nibber/core/boxes';

const glyphs = {
  now: House,
  events: List,
  cameras: Video,
  rules: FileText,
  site: MapPin,
  help: CircleQuestionMark,
  person: UserRound,
  vehicle: Car,
  pet: Dog,
  other: ScanSearch,
  attention: TriangleAlert,
  back: ChevronLeft,
  go: ChevronRight,
  close: X,
  check: Check,
  edit: Pencil,
  undo: Undo,
  redo: Redo,
  remove: Minus,
  play: Play,
  pause: Pause,
  add: Plus,
  search: Search,
  copy: Copy,
  mail: Mail,
  turn: RotateCw,
  walk: Footprints,
  mirror: FlipHorizontal,
  upload: Upload,
  calendar: Calendar,
  clock: Clock,
  shield: Shield,
  key: Key,
  device: Smartphone,
  bell: Bell,
  motion: Activity,
  plug: Plug,
  disk: HardDrive,
  logbook: NotebookPen,
  save: Download,
  up: ArrowUp,
  down: ArrowDown,
  // What Paper itself asks for by the names that it has for them.
  'checkbox-marked': SquareCheck,
  'checkbox-blank-outline': Square,
  'radio-on': CircleDot,
  'radio-off': Circle,
  'minus-box': Minus,
  eye: Eye,
  'eye-off': EyeOff,
} as const;
export type GlyphName = keyof typeof glyphs;

export const glyphOfClass = (cls: ClassName): GlyphName => (cls === 'person' || cls === 'vehicle' || cls === 'pet' ? cls : 'other');

export function Glyph({ name, size = 22, colour }: { name: GlyphName; size?: number; colour: string }) {
  const Icon = glyphs[name] ?? glyphs.other;
  return <Icon size={size} color={colour} strokeWidth={1.75} aria-hidden />;
}

/** Paper's icons are these glyphs, by their names. */
export const iconSettings = {
  icon: ({ name, size, color }: { name: unknown; size: number; color?: string | undefined }) => (
    <Glyph name={name as GlyphName} size={size} colour={color ?? '#5A6158'} />
  ),
} as ComponentProps<typeof PaperProvider>['settings'];

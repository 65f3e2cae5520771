// A square code (QR, ISO/IEC 18004) that a phone's camera reads.

import { create } from 'qrcode';
import { View } from 'react-native';
import Svg, { Path, Rect } from 'react-native-svg';
import { corner } from './theme';

/** Modules of quiet around it, as the standard asks for. */
const quiet = 4;

/** @param label what it is, for screen readers */
export function Code({ text, label, testID }: { text: string; label: string; testID?: string }) {
  const { modules } = create(text, { errorCorrectionLevel: 'M' });
  const size = modules.size + 2 * quiet;
  let path = '';
  for (let y = 0; y < modules.size; y++)
    for (let x = 0; x < modules.size; x++) if (modules.get(x, y)) path += `M${x + quiet} ${y + quiet}h1v1h-1z`;
  return (
    <View
      style={{ width: 240, alignSelf: 'center', borderRadius: corner, overflow: 'hidden' }}
      role="img"
      aria-label={label}
      testID={testID}
    >
      <Svg viewBox={`0 0 ${size} ${size}`} width={240} height={240}>
        <Rect width={size} height={size} fill="#FFFFFF" />
        <Path d={path} fill="#000000" />
      </Svg>
    </View>
  );
}

// The site file as it stands: to be read, copied, and kept elsewhere.

import { ScrollView } from 'react-native';
import { useSiteFileQuery } from '../../../state/api';
import type { Site } from '../../../state/api/types';
import { useSay } from '../../../ui/Messages';
import { Button, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { Loading } from '../../shell/Loading';

export function SiteFile({ site }: { site: Site }) {
  const say = useSay();
  const asked = useSiteFileQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data } = asked;
  if (!data) return <Loading words="Reading" of={[asked]} isPart />;
  const copy = async () => {
    await navigator.clipboard.writeText(data.text);
    say('The site file was copied.');
  };
  const save = () => {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([data.text], { type: 'application/yaml' }));
    link.download = `${site.place.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.yaml`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words tone="second">{`Version ${data.version}`}</Words>
        <Row>
          <Button glyph="copy" words="Copy" onPress={() => void copy()} testID="copy-site-file" />
          <Button glyph="save" words="Download" onPress={save} testID="save-site-file" />
        </Row>
      </Row>
      <Card>
        <ScrollView horizontal {...({ tabIndex: 0, 'aria-label': 'Site file', role: 'region' } as object)}>
          <Words size="small" selectable testID="site-file" style={{ fontFamily: 'monospace', whiteSpace: 'pre' } as object}>
            {data.text}
          </Words>
        </ScrollView>
      </Card>
    </>
  );
}

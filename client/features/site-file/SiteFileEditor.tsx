// The site file: read, edited, checked as it is typed, and applied once its difference was seen. Earlier versions are gone back to.

import { lazy, Suspense, useDeferredValue, useMemo, useState } from 'react';
import { View } from 'react-native';
import { skipToken } from '@reduxjs/toolkit/query/react';
import { problemWords } from '../../state/api';
import { pickFile } from '../../state/api/files';
import { useCheckSiteQuery, useSetSiteFileMutation, useSiteFileQuery } from '../../state/api/siteFile';
import type { Site, SiteProblem } from '../../state/api/types';
import { siteText } from '../../state/siteText';
import { useDraft } from '../../state/useDraft';
import { Columns } from '../../ui/Columns';
import { download } from '../../ui/download';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Card, Row, Waiting } from '../../ui/Surface';
import { Touch } from '../../ui/Touch';
import { target, useIsWide } from '../../ui/theme';
import { ChangedElsewhere, Unsaved } from '../../ui/Unsaved';
import { Words } from '../../ui/Words';
import { Loading } from '../shell/Loading';
import { useSettled } from './useSettled';
import { Versions } from './Versions';
import { texts } from './words';

const CodeEditor = lazy(() => import('./CodeEditor'));

const maxCharacters = 1_000_000;
const shownChanges = 12;
const none: readonly SiteProblem[] = [];

export function SiteFileEditor({ site }: { site: Site }) {
  const say = useSay();
  const isWide = useIsWide();
  const asked = useSiteFileQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data } = asked;
  const standing = useMemo(() => data && { version: data.version, content: data.text }, [data]);
  const draft = useDraft(siteText, 'site', standing);
  const [save, saving] = useSetSiteFileMutation();
  const [isLeaving, setLeaving] = useState(false);
  const [areVersions, setVersions] = useState(false);
  const [goTo, setGoTo] = useState<{ line: number }>();
  const now = draft.now ?? '';
  // It is checked when the hand rests.
  const settled = useSettled(now);
  const isEdited = draft.isChanged && now !== data?.text;
  const check = useCheckSiteQuery(isEdited && settled === now ? { text: settled, version: data?.version ?? 0 } : skipToken);
  const found = useDeferredValue(isEdited ? check.currentData : undefined);
  if (!data) return <Loading of={[asked]} isPart />;

  const put = (text: string) => {
    if (text === now) return;
    draft.change(text, true);
  };
  const copy = async () => {
    await navigator.clipboard.writeText(now);
    say(texts.theSiteFileWasCopied);
  };
  const saveFile = () =>
    download(new Blob([now], { type: 'application/yaml' }), `${site.settings.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.yaml`);
  const upload = async () => {
    const file = await pickFile('.yaml,.yml,.json,application/yaml,application/json');
    if (!file) return;
    if (file.size > maxCharacters) return say(texts.isLongerThanMbToo(file.name, maxCharacters / 1e6));
    put(await file.text());
  };
  const apply = async () => {
    const answer = await save({ text: now, version: draft.version });
    if (answer.error) return;
    draft.end();
    say(texts.theSiteFileWasSaved);
  };
  const findings = isEdited && (
    <View style={{ gap: 12 }}>
      {!found && <Waiting words={texts.checking} />}
      {found && found.problems.length > 0 && (
        <Card>
          <Words bold heading={2}>
            {found.problems.length === 1 ? texts.oneProblem : texts.problems(found.problems.length)}
          </Words>
          {found.problems.map((f) => (
            <Touch
              key={`${f.line} ${f.words}`}
              role="button"
              press={() => setGoTo({ line: f.line })}
              testID={`fault-${f.line}`}
              style={{ minHeight: target, justifyContent: 'center' }}
            >
              <Words>{texts.line(f.line, f.words)}</Words>
            </Touch>
          ))}
        </Card>
      )}
      {found && found.problems.length === 0 && (
        <Card>
          <Words bold heading={2}>
            {found.changes.length === 0 ? texts.sameMeaningOnlyFormattedDifferently : texts.changesIfYouSave}
          </Words>
          {found.changes.slice(0, shownChanges).map((words) => (
            <Words key={words} testID="site-change">
              {words}
            </Words>
          ))}
          {found.changes.length > shownChanges && <Words tone="second">{texts.andMore(found.changes.length - shownChanges)}</Words>}
        </Card>
      )}
      {check.isError && <Attention words={problemWords(check.error) ?? ''} />}
      {draft.isOlder && <ChangedElsewhere what={texts.theSite} drop={draft.end} goOn={draft.goOn} />}
      {saving.isError && <Attention words={problemWords(saving.error) ?? ''} />}
      {isLeaving && <Unsaved discard={() => (draft.end(), setLeaving(false))} goOn={() => setLeaving(false)} />}
      <Footer
        save={() => void apply()}
        canSave={!draft.isOlder && found?.problems.length === 0 && settled === now && !saving.isLoading}
        cancel={() => setLeaving(true)}
        testID="save-site-text"
        cancelTestID="leave-site-text"
      />
    </View>
  );
  return (
    <>
      <Row>
        <Button glyph="copy" words={texts.copy} onPress={() => void copy()} testID="copy-site-file" />
        <Button glyph="save" words={texts.download} onPress={saveFile} testID="save-site-file" />
        <Button glyph="upload" words={texts.upload} onPress={() => void upload()} testID="upload-site-file" />
        {!isEdited && <Button words={texts.earlierVersions} onPress={() => setVersions(true)} testID="site-versions" />}
        {!isEdited && <Words tone="second">{texts.versionCurrent(data.version)}</Words>}
      </Row>
      <Columns
        main={
          <View style={{ height: isWide ? 600 : 420 }}>
            <Suspense fallback={<Waiting />}>
              <CodeEditor value={now} change={put} problems={found?.problems ?? none} goTo={goTo} />
            </Suspense>
          </View>
        }
        side={findings}
      />
      {areVersions && <Versions zone={site.settings.timezone} standing={data.version} open={put} close={() => setVersions(false)} />}
    </>
  );
}

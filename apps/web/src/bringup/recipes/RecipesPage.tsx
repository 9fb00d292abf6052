import { useQuery } from '@tanstack/react-query';
import type { Recipe } from '@underpass/contracts';
import { recipeChecklist, recipeScript } from '@underpass/core';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useCanEdit } from '../../api/session.js';
import { useTitle } from '../../shell/useTitle.js';
import { Empty, NotHere } from '../../ui/States.js';
import { Sheet } from '../Sheet.js';
import { bringupQueries } from '../queries.js';
import { isRelease } from '../words.js';
import { OtherRelease } from './OtherRelease.js';
import { ReportCheck } from './ReportCheck.js';

/** How hosts are prepared to be connected to: recipes, what another release does to them, and how a host stands. */
export function RecipesPage() {
  useTitle('Recipes');
  const canEdit = useCanEdit();
  const [search, setSearch] = useSearchParams();
  const answer = useQuery(bringupQueries.recipes());
  if (!answer.data) return <NotHere asked={answer} awaits="the recipes" what="Recipes" />;
  const { recipes } = answer.data;
  const chosen = recipes.find(({ id }) => id === search.get('recipe')) ?? recipes[0];
  return (
    <Sheet back={{ to: '/bringup', name: 'Bring-up' }}>
      {!chosen ? (
        <>
          <h1>No recipe is written yet</h1>
          <Empty
            action={
              canEdit && (
                <Link className="btn" to="/estate/recipe/new">
                  Write a recipe
                </Link>
              )
            }
          >
            A recipe says what has to be so on a host before people connect to it: packages, services, sections of files, ports, groups,
            certificates. Write one, or import recipes.yaml.
          </Empty>
        </>
      ) : (
        <div className="grid gap-x-8 grid-cols-[minmax(0,1fr)] min-[900px]:grid-cols-[240px_minmax(0,1fr)]">
          <nav aria-label="Recipes" className="min-w-0">
            <h2 className="border-b-[1.5px] border-ink pb-2">Recipes</h2>
            <ul>
              {recipes.map(({ id, name }) => (
                <li key={id} className={`border-b border-rule ${id === chosen.id ? 'border-l-[5.5px] border-l-bore pl-2' : 'pl-[13.5px]'}`}>
                  <button
                    className={`min-h-[32px] py-1 text-left w-full ${id === chosen.id ? 'font-bold' : ''}`}
                    aria-current={id === chosen.id ? 'true' : undefined}
                    onClick={() => setSearch({ recipe: id }, { replace: true })}
                  >
                    {name}
                  </button>
                </li>
              ))}
            </ul>
          </nav>
          <OneRecipe key={chosen.id} recipe={chosen} canEdit={canEdit} />
        </div>
      )}
    </Sheet>
  );
}

const file = (text: string): string => `data:text/plain;charset=utf-8,${encodeURIComponent(text)}`;
const bounds = ({ from, below }: { from?: string | undefined; below?: string | undefined }): string =>
  [from === undefined ? '' : `from ${from} on`, below === undefined ? '' : `below ${below}`].filter(Boolean).join(', ');

function OneRecipe({ recipe, canEdit }: { recipe: Recipe; canEdit: boolean }) {
  const [release, setRelease] = useState('');
  const known = isRelease(release);
  return (
    <div className="min-w-0 max-[900px]:mt-6">
      <h1>{recipe.name}</h1>
      <p className="text-ink-2 max-w-[72ch]">
        {recipe.about} {bounds(recipe) && `For releases ${bounds(recipe)}.`}{' '}
        {recipe.needs.length > 0 && `Only where ${recipe.needs.join(', ')} is installed.`}
      </p>
      <p className="mt-2 flex flex-wrap gap-2 items-center">
        <a className="btn btn-small" download={`${recipe.id}.sh`} href={file(recipeScript(recipe))}>
          Take the script
        </a>
        <a className="btn btn-small" download={`${recipe.id}.md`} href={file(recipeChecklist(recipe, known ? release.trim() : undefined))}>
          Take the checklist
        </a>
        <label className="ml-2 flex items-center gap-2">
          for release
          <input
            className="field w-[72px]"
            autoComplete="off"
            value={release}
            aria-invalid={release !== '' && !known}
            onChange={({ target }) => setRelease(target.value)}
          />
        </label>
        {release !== '' && !known && <span className="text-brick">Type a release such as 12 or 12.5; the list is of all.</span>}
        {canEdit && (
          <Link className="link min-h-[24px] inline-flex items-center ml-2" to={`/estate/recipe/${encodeURIComponent(recipe.id)}`}>
            Edit it
          </Link>
        )}
      </p>
      <ReportCheck recipe={recipe} />
      <OtherRelease recipe={recipe} />
    </div>
  );
}

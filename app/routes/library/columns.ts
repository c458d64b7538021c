/** The grid that head and rows of the list share; on a narrow screen *Added* gives way. */
export const columns =
  'grid grid-cols-[170px_minmax(170px,1.6fr)_minmax(110px,0.8fr)_104px_124px_48px_minmax(110px,0.8fr)_84px_44px_36px] max-xl:grid-cols-[130px_minmax(140px,1.5fr)_minmax(110px,0.8fr)_84px_112px_44px_minmax(90px,0.7fr)_40px_36px] items-center gap-3 px-3';
/** On what there is no room for on a narrow screen. */
export const roomy = 'max-xl:hidden';

/** The grid that head and rows of the list share. */
export const columns =
  'grid grid-cols-[170px_minmax(170px,1.6fr)_minmax(110px,0.8fr)_104px_124px_48px_minmax(110px,0.8fr)_84px_44px_36px] items-center gap-3 px-3';

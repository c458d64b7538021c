/** The grid that head and rows of the list share; on a narrow screen *Added* and *Pack* give way. */
export const columns =
  'grid grid-cols-[150px_minmax(150px,1.4fr)_minmax(100px,0.7fr)_84px_112px_44px_minmax(100px,0.7fr)_76px_minmax(170px,1.1fr)_64px] max-[1500px]:grid-cols-[130px_minmax(140px,1.3fr)_minmax(100px,0.7fr)_80px_108px_40px_minmax(90px,0.6fr)_minmax(160px,1.1fr)_64px] max-xl:grid-cols-[110px_minmax(130px,1.3fr)_minmax(90px,0.7fr)_72px_100px_36px_minmax(140px,1fr)_64px] items-center gap-3 px-3';
/** On what there is no room for on a narrow screen. */
export const roomy = 'max-[1500px]:hidden';
export const spacious = 'max-xl:hidden';

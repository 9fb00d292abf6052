// A large invented estate for the benchmark: a hundred places, as many endpoints as asked, two resources each.
export function largeEstate(endpoints) {
  const places = 100;
  const csv = (head, rows) => `${head}\n${rows.join('\n')}\n`;
  const list = (n, row) => Array.from({ length: n }, (_, i) => row(i));
  return {
    endpoint: 'BIG-31999',
    crossing: 'BP31999~BIG-31999~documents',
    files: {
      'groups.csv': csv('id,name,rank,publications', ['big-a,Big A,5,documents;timetable', 'big-b,Big B,6,documents;counter-apps']),
      'locations.csv': csv(
        'id,name,kind,latitude,longitude,lineKind,downMbps,upMbps,activeShare',
        list(places, (i) => `big-${i},Large hall ${i},office,${55 + (i % 10) / 10},${3 + (i % 7) / 10},fibre,${1000 + 20 * i},500,0.5`),
      ),
      'people.csv': csv(
        'id,name,kind,location,groups',
        list(endpoints, (i) => `BP${i},Person ${i},staff,big-${i % places},${i % 2 ? 'big-a' : 'big-b'}`),
      ),
      'endpoints.csv': csv(
        'id,name,location,person,deviceClass,ownership,platform,processor,cores,memoryMB,clientKind,clientVersion,decoders,screens,connection,alwaysOn',
        list(
          endpoints,
          (i) =>
            `BIG-${i},BIG-${i},big-${i % places},BP${i},thin-client,managed,thin,x86-64,4,4096,thin-client firmware,4.12.${i % 9},h264@5.2;hevc@5.1,1920x1080@60 hdmi-1.4 +0+0,wired,yes`,
        ),
      ),
    },
  };
}

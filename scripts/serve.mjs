// Production: one bundle holds the pages, the services and the job tasks; the role says which part this process plays.
const role = process.argv[2] ?? 'web';
const application = await import('../build/server/index.js');
if (role === 'jobs') await application.runJobs();
else await application.serveWeb(Number(process.env.PORT ?? 3000));

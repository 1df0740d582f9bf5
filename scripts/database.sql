-- The role that the application works as: it owns its database and nothing else. Run by the superuser at each start.
-- Set from outside: word, its password; may: CREATEDB for tests, else NOCREATEDB.
SELECT format('CREATE ROLE lattice LOGIN PASSWORD %L', :'word')
  WHERE NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'lattice') \gexec
ALTER ROLE lattice :may;
SELECT 'CREATE DATABASE jolly OWNER lattice'
  WHERE NOT EXISTS (SELECT FROM pg_database WHERE datname = 'jolly') \gexec
ALTER DATABASE jolly OWNER TO lattice;
\connect jolly
ALTER SCHEMA public OWNER TO lattice;
-- What an earlier version made as the superuser.
SELECT format('ALTER TABLE public.%I OWNER TO lattice', tablename) FROM pg_tables
  WHERE schemaname = 'public' AND tableowner <> 'lattice' \gexec

# Hematite. `make start` and `make test` are all that is needed; see README.md.
.PHONY: start serve back-up restore fuzz faults load test bench format api words screenshots

start:
	@PORT=$(PORT) python3 -m ops.start

serve: # for the workshop's network, over TLS: see docs/running.md
	@python3 -m ops.serve

back-up: # into a Borg repository: make back-up TO=/mnt/backups
	@python3 -m ops.manage back_up $(TO)

restore: # onto an empty installation: make restore FROM=/mnt/backups
	@python3 -m ops.manage restore $(FROM)

test:
	@python3 -m ops.test

fuzz: # hostile input against a server of our own: see docs/hostile.md
	@python3 -m ops.hostile

faults: # power cuts and full disks: see docs/hostile.md
	@python3 -m ops.faults

load: # fifty mechanics against two servers on loopback: see docs/scale.md
	@python3 -m ops.load

bench:
	@python3 -m ops.bench

format:
	@.venv/bin/ruff format core server ops && .venv/bin/ruff check --fix core server ops
	@cd web && npm run --silent format

api: # after a change of the API: writes the types that the web app reads
	@python3 -m ops.api_types --write

words: # after a change of what is said: the catalogues for translating, see docs/languages.md
	@.venv/bin/python -m ops.words --write

screenshots: # pictures for docs/, taken from the demo data
	@PORT=$(PORT) .venv/bin/python -m ops.screenshots

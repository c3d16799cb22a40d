#!/bin/sh
# The Lantern Hall study on a batch system for real: a Slurm of one node, made of Debian's packages on this machine, as
# root. The study runs as an array whose tasks are killed and requeued, and one of its runs through a plan of
# future.batchtools; what comes out is compared with one process, byte for byte.
#
#   make cluster

set -eu
work=$(mktemp -d)
node=$(hostname -s)

say() { echo "cluster: $*"; }

start_slurm() {
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends slurm-wlm munge \
    r-cran-future.batchtools >/dev/null
  mkdir -p /etc/slurm /var/spool/slurmctld /var/spool/slurmd /run/munge
  if [ ! -f /etc/munge/munge.key ]; then
    dd if=/dev/urandom of=/etc/munge/munge.key bs=1 count=1024 2>/dev/null
    chmod 400 /etc/munge/munge.key
  fi
  chown -R munge:munge /run/munge /etc/munge
  pgrep -x munged >/dev/null || runuser -u munge -- /usr/sbin/munged
  cat >/etc/slurm/slurm.conf <<EOF
ClusterName=hall
SlurmctldHost=$node
ProctrackType=proctrack/linuxproc
TaskPlugin=task/none
SlurmUser=root
SlurmdUser=root
StateSaveLocation=/var/spool/slurmctld
SlurmdSpoolDir=/var/spool/slurmd
SelectType=select/cons_tres
SelectTypeParameters=CR_Core
ReturnToService=2
MpiDefault=none
NodeName=$node CPUs=$(nproc) State=UNKNOWN
PartitionName=main Nodes=ALL Default=YES MaxTime=INFINITE State=UP
EOF
  pgrep -x slurmctld >/dev/null || /usr/sbin/slurmctld
  sleep 1
  pgrep -x slurmd >/dev/null || /usr/sbin/slurmd
  sleep 3
  sinfo
}

digest() { (cd "$1" && ls runs && cat runs/* answers) | sha256sum; }

run_array() {
  cat >array.sh <<'EOF'
#!/bin/sh
#SBATCH --array=1-16
#SBATCH --requeue
#SBATCH --ntasks=1
#SBATCH --output=part-%a.log
#SBATCH --open-mode=append
cd "$SLURM_SUBMIT_DIR" || exit 1
exec habanera study run month.yaml --folder parts --part "$SLURM_ARRAY_TASK_ID/16" --threads 1 --quiet
EOF
  job=$(sbatch --parsable array.sh)
  say "job $job: 16 tasks"
  # Some are killed while they run, and requeued; the batch system begins them anew.
  for _ in 1 2 3 4 5 6; do
    sleep 4
    task=$(squeue -h -j "$job" -t R -o %i | head -1)
    [ -z "$task" ] || { scontrol requeue "$task" && say "killed and requeued $task"; }
  done
  while [ -n "$(squeue -h -j "$job")" ]; do sleep 2; done
  habanera study status month.yaml --folder parts
  habanera study run month.yaml --folder parts --quiet >/dev/null || [ $? -eq 1 ]
}

run_plan() {
  cat >plan.tmpl <<'EOF'
#!/bin/sh
#SBATCH --job-name=<%= job.name %>
#SBATCH --output=<%= log.file %>
#SBATCH --ntasks=1
Rscript -e 'batchtools::doJobCollection("<%= uri %>")'
EOF
  cat >plan.R <<'EOF'
library(habanera)
game <- game_war(record = c("winner", "rounds"))
alone <- simulate(game, 3e6, seed = 44)
future::plan(future.batchtools::batchtools_slurm, template = "plan.tmpl", workers = 2)
took <- system.time(parts <- simulate(game, 3e6, seed = 44, part_seconds = 5))
cat(sprintf("cluster: a plan of jobs gave %s counts in %.0f s\n",
            if (identical(alone, parts)) "the same" else "OTHER", took[["elapsed"]]))
quit(status = !identical(alone, parts))
EOF
  Rscript plan.R
}

start_slurm
cd "$work"
habanera demo --files data >/dev/null
cd data
habanera study run month.yaml --folder alone --quiet >/dev/null || [ $? -eq 1 ]
run_array
if [ "$(digest alone)" = "$(digest parts)" ]; then say "the array's bytes are those of one process"; else
  say "the array's bytes DIFFER"
  exit 1
fi
run_plan

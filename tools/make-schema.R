# The JSON Schema of studies, from the functions of the package as it is installed.
#
#   Rscript tools/make-schema.R

dir.create("inst/study", showWarnings = FALSE)
writeLines(habanera:::schema_lines(), "inst/study/schema.json")

# A JSON Schema of studies, for editors, made from what the functions take. It is shipped as inst/study/schema.json, by
# `Rscript tools/make-schema.R`; read_study() itself says more, in our own words, and does not need it.

study_schema <- function() {
  functions <- sort(study_functions())
  names <- list(type = "object")
  text_or <- function(...) list(anyOf = list(list(type = "string"), ...))
  call <- list(`$ref` = "#/definitions/call")
  settings <- list(type = "object")
  section <- function(of) c(names, list(additionalProperties = of))
  list(
    `$schema` = "http://json-schema.org/draft-07/schema#", title = "A study of habanera", type = "object",
    required = list("title", "seed", "runs"), additionalProperties = FALSE,
    properties = list(
      title = list(type = "string", minLength = 1),
      seed = list(type = "integer", minimum = 0),
      decks = section(text_or(call)), shuffles = section(text_or(call)),
      draws = section(list(anyOf = list(call, settings))), games = section(text_or(call, settings)),
      players = section(text_or(call)),
      counts = section(text_or(call, settings)), runs = c(section(call), list(minProperties = 1)),
      expect = section(text_or(list(type = "array", items = list(type = "string")))),
      report = list(type = "array", items = text_or(list(
        type = "object", additionalProperties = FALSE,
        properties = rlang::set_names(rep(list(list(type = "string")), 3), c("run", "title", "words"))
      )))
    ),
    definitions = list(
      call = list(
        type = "object", minProperties = 1, maxProperties = 1, additionalProperties = FALSE,
        properties = rlang::set_names(lapply(functions, arguments_schema), functions)
      )
    )
  )
}

# Its arguments by name, or its first argument alone, which is no object then, or a call.
arguments_schema <- function(name) {
  arguments <- setdiff(argument_names(name), minded_by_the_study)
  known <- list(type = "object", properties = rlang::set_names(lapply(arguments, function(argument) TRUE), arguments))
  if (!name %in% takes_any_name) known$additionalProperties <- FALSE
  if (!length(arguments)) known$properties <- NULL
  list(anyOf = list(known, list(`$ref` = "#/definitions/call"),
                    list(type = c("string", "number", "boolean", "array", "null"))))
}

schema_lines <- function() {
  as.character(jsonlite::toJSON(study_schema(), auto_unbox = TRUE, pretty = 1))
}

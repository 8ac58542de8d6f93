# What R says of the measures and groupings of boards, on data that R carries: writes tests/vectors/boards.json.
#   Rscript tests/vectors/make-boards.R > tests/vectors/boards.json
# quantile() with its default, type 7; sd() divides by n - 1.
num <- function(x) if (length(x) == 0 || is.na(x)) "null" else trimws(formatC(x, digits = 17, format = "g"))
told <- function(x) {
  k <- x[!is.na(x)]
  parts <- c(
    sprintf('"n": %d', length(x)), sprintf('"known": %d', length(k)),
    sprintf('"sum": %s', num(sum(k))), sprintf('"mean": %s', num(mean(k))),
    sprintf('"median": %s', num(median(k))), sprintf('"q90": %s', num(quantile(k, 0.9, names = FALSE))),
    sprintf('"q25": %s', num(quantile(k, 0.25, names = FALSE))),
    sprintf('"deviation": %s', num(sd(k))), sprintf('"least": %s', num(min(k))), sprintf('"most": %s', num(max(k))),
    sprintf('"distinct": %d', length(unique(k))))
  paste0('{', paste(parts, collapse = ", "), '}')
}
grouped <- function(x, g) {
  rows <- sapply(sort(unique(as.character(g))), function(k) sprintf('"%s": %s', k, told(x[as.character(g) == k])))
  paste0('{', paste(rows, collapse = ",\n      "), '}')
}
list_of <- function(x, f) paste0('[', paste(sapply(x, f), collapse = ", "), ']')
set <- function(name, x, g) sprintf(
  '  "%s": {\n    "values": %s,\n    "groups": %s,\n    "all": %s,\n    "by": %s\n  }',
  name, list_of(x, num), list_of(as.character(g), function(s) sprintf('"%s"', s)), told(x), grouped(x, g))
cat("{\n")
cat(sprintf('  "made": "R %s, datasets: airquality, morley, chickwts",\n', getRversion()))
cat(paste(
  # With missing values in it.
  set("ozone", airquality$Ozone, airquality$Month),
  # NIST StRD, univariate, Michelso: mean 299.8524, deviation 0.0790105478.
  set("michelso", (morley$Speed + 299000) / 1000, morley$Expt),
  set("chicks", chickwts$weight, chickwts$feed), sep = ",\n"))
cat("\n}\n")

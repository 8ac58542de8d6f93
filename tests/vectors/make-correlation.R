# Writes correlation.json: rank correlations (Spearman, ties share the mean of their ranks) by R's cor(), of data sets that
# come with R. Run by hand: Rscript tests/vectors/make-correlation.R
pairs <- list(
  list("mtcars: mpg, wt", mtcars$mpg, mtcars$wt),
  list("mtcars: cyl, gear (many ties)", mtcars$cyl, mtcars$gear),
  list("iris: sepal length, sepal width", iris$Sepal.Length, iris$Sepal.Width),
  list("faithful: eruptions, waiting", faithful$eruptions, faithful$waiting),
  list("quakes: depth, mag", quakes$depth, quakes$mag),
  list("airquality: ozone, temp (both known)", airquality$Ozone[!is.na(airquality$Ozone)], airquality$Temp[!is.na(airquality$Ozone)]),
  list("rising", c(1, 2, 3, 4, 5), c(10, 100, 1000, 1e4, 1e300)),
  list("falling", c(1, 2, 3, 4), c(4, 3, 2, 1)),
  list("negative and huge", c(-1e300, -5, 0, 5, 1e300), c(3, 3, 2, 1, 1))
)
number <- function(v) format(v, digits = 17, scientific = FALSE, trim = TRUE)
numbers <- function(v) paste0("[", paste(vapply(v, function(x) format(x, digits = 15, trim = TRUE), ""), collapse = ", "), "]")
lines <- vapply(pairs, function(p) sprintf(
  "    {\"name\": \"%s\", \"a\": %s, \"b\": %s, \"rho\": %s}", p[[1]], numbers(p[[2]]), numbers(p[[3]]),
  number(cor(p[[2]], p[[3]], method = "spearman"))
), "")
writeLines(c(
  "{", sprintf("  \"about\": \"Rank correlations by %s, made by make-correlation.R.\",", R.version.string), "  \"cases\": [",
  paste(lines, collapse = ",\n"), "  ]", "}"
), "tests/vectors/correlation.json")

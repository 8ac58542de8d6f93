suppressMessages(library(classInt))
set.seed(7)
sets <- list(
  rivers = as.numeric(rivers), faithful = faithful$eruptions, quakes_mag = quakes$mag, precip = as.numeric(precip),
  islands = as.numeric(islands), ties = c(1,1,1,1,2,2,2,5,5,9), negative = c(-40,-12.5,-3,-3,0,0.5,7,8,9,250),
  huge = c(1e12+1, 1e12+2, 1e12+3, 1e12+10, 1e12+11, 1e12+30), few = c(3, 8), decimals = round(faithful$waiting/7, 3))
num <- function(x) paste0("[", paste(formatC(x, digits=17, format="g"), collapse=","), "]")
out <- c()
for (s in names(sets)) { x <- sets[[s]]; for (k in c(2,3,5,7)) { if (length(unique(x)) <= k) next
  for (st in c("equal","quantile","fisher","sd","pretty")) {
    b <- suppressWarnings(classIntervals(x, n=k, style=st))$brks
    # numbers in each class, intervals closed on the left as classInt has them by default
    # Quantiles that stand on a value are that value, without the dust of binary shares behind it.
    inner <- if (st == "quantile") unique(signif(b[-c(1, length(b))], 15)) else b[b < max(x)]
    inner <- inner[inner > min(x)]
    counts <- table(cut(x, c(-Inf, inner, Inf), right=FALSE))
    out <- c(out, sprintf('{"set":"%s","k":%d,"style":"%s","breaks":%s,"counts":[%s]}', s, k, st, num(b), paste(as.integer(counts), collapse=",")))
  } } }
q <- c(); for (r in list(c(0,1,5), c(-3.2,7.9,4), c(0.012,0.0187,6), c(12,12,3), c(-1e6,3e6,7), c(99,101,9), c(2,1000,3), c(0,0,4))) q <- c(q, sprintf('{"low":%s,"high":%s,"n":%d,"pretty":%s}', formatC(r[1],digits=17,format="g"), formatC(r[2],digits=17,format="g"), r[3], num(pretty(c(r[1],r[2]), r[3]))))
cat(sprintf('{"source":"R %s.%s, package classInt %s (classIntervals, pretty); data sets rivers, faithful, quakes, precip and islands of R",\n"sets":{%s},\n"classes":[\n%s\n],\n"pretty":[\n%s\n]}\n', R.version$major, R.version$minor, as.character(packageVersion("classInt")), paste(sprintf('"%s":%s', names(sets), sapply(sets, num)), collapse=",\n"), paste(out, collapse=",\n"), paste(q, collapse=",\n")))

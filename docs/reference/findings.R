# Data sets of made-up trials, and what lme4, pbkrtest and emmeans say of them: src/core/findings/fixtures/reference.json.
# Unbalanced, with missing patches, missing whole-plot cells, several random terms, pairs of factors, variances of nought.
# Run with: Rscript docs/reference/findings.R   (Debian: r-cran-lme4 r-cran-pbkrtest r-cran-emmeans r-cran-jsonlite)
suppressMessages({library(lme4); library(pbkrtest); library(emmeans); library(jsonlite)})
set.seed(20261126)
emm_options(lmerTest.limit = 1e5, pbkrtest.limit = 1e5)
out <- list()
keep <- function(name, d, fixed, random = c(), pairs = list()) {
  for (f in c(fixed, random)) d[[f]] <- factor(d[[f]], levels = unique(d[[f]]))
  rhs <- c(fixed, sapply(pairs, paste, collapse = ":"))
  terms <- paste(c(rhs, sprintf("(1|%s)", random)), collapse = " + ")
  m <- if (length(random)) suppressMessages(lmer(as.formula(paste("score ~", terms)), d,
         control = lmerControl(optCtrl = list(xtol_abs = 1e-12, ftol_abs = 1e-12))))
       else lm(as.formula(paste("score ~", terms)), d)
  diffs <- list()
  for (f in fixed) {
    e <- suppressMessages(emmeans(m, f, lmer.df = "kenward-roger"))
    s <- as.data.frame(pairs(e, adjust = "none"))
    mm <- as.data.frame(e)
    l <- levels(d[[f]]); k <- 0
    for (i in seq_along(l)[-length(l)]) for (j in (i + 1):length(l)) { k <- k + 1
      diffs[[length(diffs) + 1]] <- list(factor = f, a = l[i], b = l[j], value = s$estimate[k], se = s$SE[k], df = s$df[k]) }
    for (i in seq_along(l)) diffs[[length(diffs) + 1]] <- list(factor = f, mean = l[i], value = mm$emmean[i], se = mm$SE[i], df = mm$df[i])
  }
  variance <- if (length(random)) { v <- as.data.frame(VarCorr(m)); setNames(as.list(v$vcov), ifelse(v$grp == "Residual", "residual", v$grp)) }
              else list(residual = sigma(m)^2)
  cols <- c(fixed, random, "score")
  out[[length(out) + 1]] <<- list(name = name, factors = fixed, random = as.list(random), pairs = pairs,
    rows = lapply(seq_len(nrow(d)), function(i) lapply(d[i, cols], as.character)), estimates = diffs, variance = variance)
}
med <- c("matte", "gel", "pva"); hrs <- c("8", "20"); prime <- c("bare", "shellac", "white")
y <- function(d, eff, sd, ...) { v <- 80; for (f in names(eff)) v <- v + eff[[f]][as.integer(factor(d[[f]], levels = unique(d[[f]])))]
  for (r in list(...)) v <- v + rnorm(length(unique(d[[r[[1]]]])), 0, r[[2]])[as.integer(factor(d[[r[[1]]]]))]
  round(v + rnorm(nrow(d), 0, sd), 2) }
drop <- function(d, n) d[-sample(nrow(d), n), ]
g <- function(...) expand.grid(..., stringsAsFactors = FALSE)
d <- g(med = med, hrs = hrs, rep = 1:2); d$score <- y(d, list(med = c(0, 4, -3), hrs = c(0, 5)), 3); keep("plain", d, c("med", "hrs"))
d <- drop(d, 3); keep("plain, three missing", d, c("med", "hrs"))
d <- g(med = med, hrs = hrs, rep = 1:3); d$score <- y(d, list(med = c(0, 4, -3), hrs = c(0, 5)), 3); keep("pair", drop(d, 2), c("med", "hrs"), pairs = list(c("med", "hrs")))
d <- g(med = med, hrs = hrs, board = paste0("b", 1:4)); d$score <- y(d, list(med = c(0, 4, -3), hrs = c(0, 5)), 2, list("board", 4)); keep("boards", d, c("med", "hrs"), "board")
keep("boards, five missing", drop(d, 5), c("med", "hrs"), "board")
d$score <- y(d, list(med = c(0, 2, 1), hrs = c(0, 1)), 4, list("board", 0)); keep("boards that do not differ", drop(d, 4), c("med", "hrs"), "board")
d <- g(med = med, hrs = hrs, board = paste0("b", 1:2)); d$score <- y(d, list(med = c(0, 4, -3), hrs = c(0, 5)), 2, list("board", 5)); keep("two boards", d, c("med", "hrs"), "board")
d <- g(hrs = hrs, med = c("matte", "gel"), strip = 1:3, board = paste0("b", 1:4)); d$prime <- prime[(d$strip + match(d$board, unique(d$board))) %% 3 + 1]; d$strip <- paste(d$board, d$strip)
d$score <- y(d, list(prime = c(0, 3, 6), med = c(0, 4), hrs = c(0, 2)), 2, list("board", 3), list("strip", 3)); keep("strips in boards", d, c("prime", "med", "hrs"), c("board", "strip"))
keep("strips in boards, seven missing", drop(d, 7), c("prime", "med", "hrs"), c("board", "strip"))
keep("a whole strip missing", d[d$strip != d$strip[1], ], c("prime", "med", "hrs"), c("board", "strip"))
keep("two strips missing and a few patches", drop(d[!(d$strip %in% unique(d$strip)[c(2, 9)]), ], 4), c("prime", "med", "hrs"), c("board", "strip"))
keep("strips, a pair across", drop(d, 3), c("prime", "med", "hrs"), "strip", list(c("prime", "med")))
d <- g(med = c("a", "b", "c", "d", "e"), load = paste0("l", 1:6)); d <- d[c(TRUE, TRUE, FALSE), ]; d$score <- y(d, list(med = c(0, 1, 2, 4, 8)), 3, list("load", 3)); keep("loads, incomplete blocks", d, "med", "load")
d <- g(a = c("1", "2"), b = c("1", "2"), c = c("1", "2"), d = c("1", "2"), board = paste0("b", 1:2)); d$score <- y(d, list(a = c(0, 3), b = c(0, -2), c = c(0, 1), d = c(0, 6)), 4, list("board", 2)); keep("four factors, half lost", drop(d, 12), c("a", "b", "c", "d"), "board")
d <- g(med = med, board = paste0("b", 1:5), day = paste0("d", 1:3)); d$score <- y(d, list(med = c(0, 4, -3)), 2, list("board", 3), list("day", 4)); keep("boards and days crossed", drop(d, 9), "med", c("board", "day"))
d <- g(med = med, hrs = hrs, board = paste0("b", 1:8)); d$score <- y(d, list(med = c(0, 0, 0), hrs = c(0, 0)), 6, list("board", 12)); keep("large boards, nothing differs", drop(d, 15), c("med", "hrs"), "board")
d <- g(med = med, hrs = hrs, board = paste0("b", 1:4)); d$score <- 1e6 + y(d, list(med = c(0, 4, -3), hrs = c(0, 5)), 2, list("board", 4)); keep("values in millions", drop(d, 3), c("med", "hrs"), "board")
d <- g(oven = c("low", "high"), load = 1:6, piece = 1:4); d$load <- paste(d$oven, d$load); d$med <- med[(d$piece + as.integer(factor(d$load))) %% 3 + 1]; d$score <- y(d, list(oven = c(0, 5), med = c(0, 3, -1)), 3, list("load", 4)); keep("loads under a setting", drop(d, 6), c("oven", "med"), "load")
write(toJSON(out, auto_unbox = TRUE, digits = 12, pretty = FALSE), "src/core/findings/fixtures/reference.json")
cat(length(out), "data sets\n")

# The reference values in src/core/design/*.test.ts were printed by this script: Rscript docs/reference/design-reference.R (R 4.2, base only).
cat("t-test power (two groups of n, delta, sd=6):\n")
for (n in c(3,6,12)) for (d in c(5,10)) cat(n, d, sprintf("%.6f", power.t.test(n=n, delta=d, sd=6, sig.level=0.05, strict=TRUE)$power), "\n")
cat("delta for 80%:\n")
for (n in c(3,6,12,20)) cat(n, sprintf("%.5f", power.t.test(n=n, power=0.8, sd=6, sig.level=0.05, strict=TRUE)$delta), "\n")
cat("anova:\n")
for (g in c(2,3,4)) for (n in c(3,6)) cat(g,n, sprintf("%.6f", power.anova.test(groups=g,n=n,between.var=20,within.var=36)$power),"\n")
# beta-binomial
bb <- function(k,m,a,b) sum(choose(m,k:m)*beta(a+(k:m),b+m-(k:m))/beta(a,b))
for (p in list(c(2,4,3,5),c(2,3,1,4),c(3,8,7,10))) cat(p, sprintf("%.8f", bb(p[1],p[2],p[3]+1,p[4]-p[3]+1)),"\n")
# D-efficiency of given and searched mixed designs, orthonormal Helmert contrasts
oh <- function(n){ h <- contr.helmert(n); sweep(h,2,sqrt(colMeans(h^2)),"/") }
eff <- function(d,counts){ X <- matrix(1,nrow(d),1); for(f in seq_along(counts)) X <- cbind(X, oh(counts[f])[d[,f]+1,,drop=FALSE]); det0 <- det(crossprod(X)); if (det0<=0) return(0); det0^(1/ncol(X))/nrow(d)}
ref <- function(counts,n,seed,tries){ set.seed(seed); best<-0
 for(t in 1:tries){ start <- c(sapply(counts,function(k) sample(rep(0:(k-1),length.out=n))))
  fn <- function(x) -eff(matrix(x,n),counts)
  gr <- function(x){ i <- sample(length(x),1); f <- (i-1)%/%n+1; x[i] <- sample(setdiff(0:(counts[f]-1),x[i]),1); x }
  o <- optim(start,fn,gr,method="SANN",control=list(maxit=20000,temp=0.02,tmax=10)); if(-o$value>best) best <- -o$value }
 best}
cat("mixed D-efficiency (SANN):\n")
cat("2,3,4 n=12", sprintf("%.5f", ref(c(2,3,4),12,1,6)), "\n")
cat("2,2,3,3 n=12", sprintf("%.5f", ref(c(2,2,3,3),12,2,6)), "\n")
cat("2,3,4,2 n=16", sprintf("%.5f", ref(c(2,3,4,2),16,3,6)), "\n")
cat("2,2,2,2 n=6", sprintf("%.5f", ref(c(2,2,2,2),6,4,6)), "\n")
fix <- matrix(c(0,0,0, 0,1,1, 0,2,2, 1,0,3, 1,1,0, 1,2,1, 0,0,2, 1,1,3, 1,2,0, 0,1,2),ncol=3,byrow=TRUE)
cat("fixed", sprintf("%.10f", eff(fix,c(2,3,4))), "\n")

# A split-plot as findings analyse it: three preparations on two strips each, two waits inside every strip; and blocks.
y <- c(62, 70, 66, 75, 80, 84, 77, 86, 71, 74, 69, 79)
strip <- factor(rep(1:6, each = 2))
prep <- factor(rep(c("none", "none", "coat", "coat", "gel", "gel"), each = 2), levels = c("none", "coat", "gel"))
wait <- factor(rep(c("4", "20"), 6), levels = c("4", "20"))
summary(aov(y ~ prep + wait + Error(strip)))
block <- factor(rep(c(1, 1, 2, 2), 3))
m <- lm(y ~ prep + wait + block)
summary(m)$coefficients
i <- lm(y ~ prep * wait)
summary(i)$coefficients; summary(i)$sigma

# Settings nested in methods: D-efficiency, the best ten runs, least-squares means. Values in src/core/design/nested.test.ts
# and src/core/findings/nested.test.ts. Run with: Rscript docs/reference/nested.R
# method A (medium x hours), B (neither), C (medium)
d <- rbind(
 data.frame(m="A", med=c(1,1,2,2,1,1,2,2), h=c(1,2,1,2,1,2,1,2), y=c(71,83,64,79,75,86,61,80)),
 data.frame(m="B", med=0, h=0, y=c(52,57,49)),
 data.frame(m="C", med=c(1,2,1,2,1), h=0, y=c(88,93,85,95,90)))
d$m <- factor(d$m)
M2 <- as.numeric(d$med==2); H2 <- as.numeric(d$h==2)
f <- lm(y ~ m + M2 + H2, data=d)
V <- vcov(f); b <- coef(f)
est <- function(L){ c(sum(L*b), sqrt(drop(t(L)%*%V%*%L))) }
# order: int mB mC M2 H2
A <- c(1,0,0,.5,.5); B <- c(1,1,0,0,0); C <- c(1,0,1,.5,0)
cat("sd",summary(f)$sigma, df.residual(f), "\n")
print(rbind(A=est(A),B=est(B),C=est(C),AC=est(A-C),AB=est(A-B)), digits=12)
# medium level means: over methods A and C equally
m1 <- (c(1,0,0,0,.5)+c(1,0,1,0,0))/2; m2 <- (c(1,0,0,1,.5)+c(1,0,1,1,0))/2
print(rbind(m1=est(m1),m2=est(m2),d=est(m2-m1), h=est(c(0,0,0,0,1))), digits=12)
# cell means
d$cell <- interaction(d$m,d$med,d$h,drop=TRUE)
g <- lm(y~0+cell,data=d); Vg<-vcov(g); bg<-coef(g); print(bg); cat("sd",summary(g)$sigma, df.residual(g),"\n")
e2 <- function(names){L<-rep(0,length(bg)); names(L)<-names(bg); for(n in names(names)) L[paste0("cell",n)]<-names[[n]]; c(sum(L*bg), sqrt(drop(t(L)%*%Vg%*%L)))}
print(rbind(A=e2(list("A.1.1"=.25,"A.2.1"=.25,"A.1.2"=.25,"A.2.2"=.25)), C=e2(list("C.1.0"=.5,"C.2.0"=.5)),
 med2=e2(list("A.2.1"=.25,"A.2.2"=.25,"C.2.0"=.5))),digits=12)
# D-efficiency with orthonormal contrasts, zeros where absent
helm3 <- rbind(c(sqrt(3/2), sqrt(3/6)), c(-sqrt(3/2), sqrt(3/6)), c(0,-2*sqrt(3/6)))
cm <- helm3[as.integer(d$m),]
s2 <- function(v) ifelse(v==0,0,ifelse(v==1,1,-1))
X <- cbind(1,cm,s2(d$med),s2(d$h))
cat("Deff", format(det(t(X)%*%X)^(1/ncol(X))/nrow(X),digits=14),"\n")
# best of all: exhaustive D-optimal choice of 8 runs from the 7 combinations of candidates with repeats
cand <- rbind(data.frame(m=1,med=c(1,1,2,2),h=c(1,2,1,2)),data.frame(m=2,med=0,h=0),data.frame(m=3,med=c(1,2),h=0))
Xc <- cbind(1,helm3[cand$m,],s2(cand$med),s2(cand$h))
best<-0; 
comb <- function(n,k) if(k==0) matrix(0,1,0) else {}
rec <- function(i,left,counts){ if(i==7){counts[7]<-left; idx<-rep(1:7,counts); D<-det(crossprod(Xc[idx,])); if(D>best+1e-9){best<<-D; bc<<-counts}; return(invisible())}
 for(k in 0:left){counts[i]<-k; rec(i+1,left-k,counts)}}
rec(1,10,rep(0,7)); cat("best10", format(best^(1/5)/10,digits=14), bc,"\n")
# one kind missing: main effects
e <- d[!(d$m=="A" & d$med==2 & d$h==2),]
f <- lm(y ~ m + M2 + H2, data=data.frame(e, M2=as.numeric(e$med==2), H2=as.numeric(e$h==2)))
V <- vcov(f); b <- coef(f); cat("sd",summary(f)$sigma, df.residual(f), "\n")
print(rbind(A=est(A),B=est(B),C=est(C),m1=est(m1),m2=est(m2),d=est(m2-m1)),digits=12)

# make demo    install what is missing, build, run the Lantern Hall demo
# make test    install what is missing, run all tests; FILE=hand: the files with this in their names
# See README.md for the rest.

CXX ?= g++
CORE_FLAGS = -std=c++17 -Wall -Wextra -Wpedantic -Iinst/include -Ibuild/doctest/usr/include -pthread
CORE_HEADERS := $(shell find inst/include -name '*.hpp')
CORE_TESTS := $(wildcard tests/core/*.cpp)
CORE_OBJECTS := $(CORE_TESTS:tests/core/%.cpp=build/core/%.o)
COMPILED := $(shell find src inst/include -type f -not -name '*.o' -not -name '*.so' -not -name Makevars)
ARTICLES := $(wildcard docs/articles/*.md docs/articles/figures/*) tools/install-articles.R
INTERPRETED := DESCRIPTION NAMESPACE src/Makevars $(shell find R inst exec man -type f -not -path 'inst/include/*')

.PHONY: all demo test check bench cluster digests fuzz sanitize lint docs site screenshots install dependencies clean

all: install

dependencies:
	@mkdir -p build
	@Rscript tools/install-dependencies.R

install: dependencies build/installed build/linked

# Installed anew when a source changed, or when the library has lost it.
ifeq ($(shell Rscript -e 'cat(nzchar(system.file(package = "habanera")))' 2>/dev/null),FALSE)
.PHONY: build/installed
endif
# What was compiled without knowledge of the headers it includes is compiled anew.
build/depend: | dependencies
	@rm -f src/*.o src/*.so
	@mkdir -p $@ && touch $@

# A user's own settings of the compiler win.
ifeq ($(R_MAKEVARS_USER)$(wildcard $(HOME)/.R/Makevars*),)
COMPILER_SETTINGS = R_MAKEVARS_USER=$(CURDIR)/tools/Makevars
else
# Then nothing tells which headers a unit includes.
build/depend: $(CORE_HEADERS) $(wildcard src/*.h)
endif

R_INSTALL = MAKEFLAGS=-j$$(nproc) $(COMPILER_SETTINGS) R CMD INSTALL --no-multiarch --no-test-load

build/installed: $(INTERPRETED) $(ARTICLES) build/depend | dependencies
	@echo "habanera: building and installing the package"
	@$(R_INSTALL) . >build/install.log 2>&1 || (cat build/install.log; exit 1)
	@Rscript tools/install-articles.R
	@Rscript -e 'habanera::install_command()'
	@touch $@

# Where the core alone changed, what is written in R stays as it is installed: half a minute of R's byte compiler.
build/linked: $(COMPILED) build/installed
	@$(if $(filter build/installed,$?),,echo "habanera: building and installing the core" && \
	  ($(R_INSTALL) --libs-only . >build/install.log 2>&1 || (cat build/install.log; exit 1)) && \
	  cp -r inst/include "$$(Rscript -e 'cat(system.file(package = "habanera"))')")
	@touch $@

demo: install
	@Rscript -e 'status <- habanera:::run_command(c("demo", "--out", "build/lantern-hall")); quit(status = status)'

build/core/%.o: tests/core/%.cpp $(CORE_HEADERS) | dependencies
	@mkdir -p build/core
	@$(CXX) $(CORE_FLAGS) -O1 -c $< -o $@

build/core-tests: $(CORE_OBJECTS)
	@$(CXX) $(CORE_FLAGS) $^ -o $@

test: install $(if $(FILE),,build/core-tests)
	@FILE='$(FILE)' Rscript tools/run-tests.R

# As CRAN checks, but for what asks its servers. Allowed is what the flags below pass over, and no more: a first
# submission's note, and the size of what is compiled (debug symbols).
check: install
	@rm -rf build/check && mkdir -p build/check
	@R CMD build . --no-manual >build/check/build.log 2>&1 || (cat build/check/build.log; exit 1)
	@mv habanera_*.tar.gz build/check/
	@cd build/check && _R_CHECK_FORCE_SUGGESTS_=false _R_CHECK_SYSTEM_CLOCK_=0 _R_CHECK_CRAN_INCOMING_=false \
	  _R_CHECK_TESTS_NLINES_=0 R CMD check --as-cran --no-manual habanera_*.tar.gz
	@! grep -E '^Status: .*(ERROR|WARNING)' build/check/habanera.Rcheck/00check.log

cluster: install
	@sh tools/try-cluster.sh

bench: install build/bare.so
	@Rscript bench/bench.R

# Whether a thousand calls of all kinds answer as they did. Not part of the tests.
digests: install
	@Rscript tools/digests.R

# Malformed input by the ten thousand, kills, full disks: what leaks is printed. Not part of the tests.
fuzz: install
	@Rscript tools/fuzz.R

build/bare.so: bench/bare.cpp $(wildcard bench/bare/*.hpp)
	@mkdir -p build
	@$(CXX) -std=c++17 -O2 -Wall -Wextra -Wpedantic -fPIC -shared $< -o $@ -pthread

# The core's tests under the sanitizers, file by file and side by side; threads are watched where there are some.
THREADED_TESTS := $(shell grep -lE 'thread|run_blocks|Crew|Solved|count_games|count_categories|audit' $(CORE_TESTS))
TESTS_address,undefined := $(CORE_TESTS)
TESTS_thread := tests/core/main.cpp $(THREADED_TESTS)
SANITIZERS = address,undefined thread
sanitize: dependencies
	@for kind in $(SANITIZERS); do $(MAKE) -s -j$$(nproc) sanitize-$$kind || exit 1; done

define sanitized
build/sanitized-$(1)/%.o: tests/core/%.cpp $$(CORE_HEADERS) | dependencies
	@mkdir -p $$(@D)
	@$$(CXX) $$(CORE_FLAGS) -g1 -O2 -Wno-maybe-uninitialized -fsanitize=$(1) -fno-sanitize-recover=all -c $$< -o $$@

build/sanitized-$(1)/tests: $$(TESTS_$(1):tests/core/%.cpp=build/sanitized-$(1)/%.o)
	@$$(CXX) $$(CORE_FLAGS) -fsanitize=$(1) $$^ -o $$@

.PHONY: sanitize-$(1)
sanitize-$(1): build/sanitized-$(1)/tests
	@echo "habanera: core tests under the sanitizers $(1)"
	@printf '%s\n' $$(TESTS_$(1)) | xargs -P $$$$(nproc) -I FILE $$< --source-file='*FILE' --minimal
endef
$(foreach kind,$(SANITIZERS),$(eval $(call sanitized,$(kind))))

# Headers must each stand alone; those of others are not ours to judge.
R_HEADERS = $(shell Rscript -e 'cat(paste("-isystem", c(R.home("include"), "/usr/share/R/include", \
  system.file("include", package = "Rcpp"))))')
lint: dependencies
	@Rscript tools/install-dependencies.R lint
	@Rscript tools/lint.R
	@printf '%s\n' $(CORE_HEADERS) $(CORE_TESTS) bench/bare.cpp | xargs -P $$(nproc) -I FILE \
	  $(CXX) $(CORE_FLAGS) $(R_HEADERS) -Wshadow -Wconversion -Werror -fsyntax-only -include FILE -x c++ /dev/null

# Help and glue; then, of the installed package, the articles and the README's outputs.
docs: dependencies
	@Rscript tools/document.R
	@$(MAKE) -s install
	@Rscript tools/make-articles.R
	@Rscript tools/readme.R

# The documentation as a site that needs no network, in build/site.
site: install
	@Rscript tools/make-site.R

screenshots: install
	@sh tools/make-screenshots.sh

clean:
	rm -rf build src/*.o src/*.so

# Completion of the words of fox-cellar and fox-cellar-run, for bash.
_fox_cellar_run() {
    local word=${COMP_WORDS[COMP_CWORD]} verb=${COMP_WORDS[1]:-}
    if [ "$COMP_CWORD" -eq 1 ]; then
        mapfile -t COMPREPLY < <(compgen -W "inspect check rewrite build column section audit volumes drill export sheet layers mesh
            where blocks excavate report compare surface terrain volume" -- "$word")
    elif [[ $word == -* ]]; then
        local options
        options=$(fox-cellar-run "$verb" --help 2> /dev/null | grep -o -- '--[a-z-]*' | sort -u)
        mapfile -t COMPREPLY < <(compgen -W "$options" -- "$word")
    else
        mapfile -t COMPREPLY < <(compgen -f -- "$word")
    fi
}
_fox_cellar() {
    local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD - 1]}
    if [ "$before" = --stage ]; then
        mapfile -t COMPREPLY < <(compgen -W "site holes ground sequence model layers blocks sheets" -- "$word")
    elif [[ $word == -* ]]; then
        mapfile -t COMPREPLY < <(compgen -W "--demo --stage --screenshot --size --help --version" -- "$word")
    else
        mapfile -t COMPREPLY < <(compgen -f -- "$word")
    fi
}
complete -o filenames -F _fox_cellar_run fox-cellar-run
complete -o filenames -F _fox_cellar fox-cellar

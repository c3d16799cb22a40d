# Shuffles as the hall's score-keeping tablet does: reads a deck a line, writes it shuffled. Wrong: can
# you see why?
while (my $line = <STDIN>) {
    my @deck = split ' ', $line;
    for my $i (0 .. $#deck - 1) {
        my $j = int(rand(@deck));
        @deck[$i, $j] = @deck[$j, $i];
    }
    print "@deck\n";
}

# Reads a deck a line, writes it shuffled. Right: every place takes one of the cards not yet placed.
while (my $line = <STDIN>) {
    my @deck = split ' ', $line;
    for my $i (0 .. $#deck - 1) {
        my $j = $i + int(rand(@deck - $i));
        @deck[$i, $j] = @deck[$j, $i];
    }
    print "@deck\n";
}

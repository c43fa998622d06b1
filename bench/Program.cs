using Pritchel.Bench;

return args is [var command, ..]
    ? command switch
    {
        "rehearse" => Rehearse.Run(args[1..]),
        "next-test" => NextTest.Run(),
        "solve" => Solve.Run(),
        _ => Usage.Show(),
    }
    : Usage.Show();

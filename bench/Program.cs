using Pritchel.Bench;

return args is [var command, ..]
    ? command switch
    {
        "rehearse" => Rehearse.Run(args[1..]),
        "next-test" => NextTest.Run(),
        "evaluate" => Evaluate.Run(args[1..]),
        "trace" => Trace.Run(args[1..]),
        "properties" => Properties.Run(args[1..]),
        "first-test" => FirstTest.Run(args[1..]),
        "lookahead" => Lookahead.Run(args[1..]),
        "priors" => Priors.Run(args[1..]),
        "machine-page" => await MachinePage.RunAsync(),
        "first-page" => await FirstPage.RunAsync(args[1..]),
        "warm-page" => await WarmPage.RunAsync(args[1..]),
        "next-page" => await NextPage.RunAsync(args[1..]),
        "proof" => Proofs.Run(),
        "solve" => Solve.Run(),
        "dictionary" => DictionaryBench.Run(),
        _ => Usage.Show(),
    }
    : Usage.Show();

<?php

require __DIR__ . '/../../choir/choir.php';
require __DIR__ . '/../src/season.php';
